<?php

declare(strict_types=1);

namespace App\OData;

use App\Access\Reach;
use App\Selection\SavedFilter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Reihe\Core\Selection\InvalidSelection;

/** A small read-only OData 4.01 service. Dates are the enterprise's wall clock, written with Z. */
final class ODataController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function service(): JsonResponse
    {
        return $this->json(['@odata.context' => url('odata/v4/$metadata'),
            'value' => array_map(static fn (EntitySet $s): array => ['name' => $s->name, 'kind' => 'EntitySet', 'url' => $s->name],
                array_values(Model::sets()))]);
    }

    public function metadata(): Response
    {
        return new Response(Metadata::xml(), 200, ['Content-Type' => 'application/xml', 'OData-Version' => '4.01']);
    }

    public function read(Request $request, string $path): Response|JsonResponse
    {
        try {
            return $this->answer($request, $path);
        } catch (ODataError $e) {
            return $e->render();
        }
    }

    private function answer(Request $request, string $path): Response|JsonResponse
    {
        if (preg_match("/^(\w+)(?:\('((?:[^']|'')*)'\))?(\/\\\$count)?$/", $path, $m) !== 1) {
            throw new ODataError(404, "There is nothing at “{$path}”.");
        }
        $set = Model::set($m[1]);
        $raw = [];
        foreach ($request->query() as $name => $value) {
            $raw[preg_match('/^(select|filter|orderby|top|skip|count|expand|format)$/', (string) $name) === 1 ? "\${$name}"
                : (string) $name] = is_string($value)
                && mb_check_encoding($value, 'UTF-8') ? $value
                : throw new ODataError(400, "The option {$name} must be given once, as UTF-8 text.", (string) $name);
        }
        $options = Options::read($set, $raw);
        $query = new Query($this->reach, $this->view($set, $raw['view'] ?? null));
        if (($m[3] ?? '') !== '') {
            return new Response((string) $query->count($options), 200, ['Content-Type' => 'text/plain', 'OData-Version' => '4.01']);
        }
        if (($m[2] ?? '') !== '') {
            [$rows] = $query->rows($options, ["{$set->property('Id')->sql} = ?", [str_replace("''", "'", $m[2])]]);

            return $this->json(['@odata.context' => url("odata/v4/\$metadata#{$set->name}/\$entity")] + ($rows[0]
                ?? throw new ODataError(404, "There is no such {$set->type}.")));
        }
        [$rows, $more] = $query->rows($options);
        $body = ['@odata.context' => url("odata/v4/\$metadata#{$set->name}")];
        if ($options->count) {
            $body['@odata.count'] = $query->count($options);
        }
        $body['value'] = $rows;
        if ($more) {
            $next = ['$skip' => (string) ($options->skip + Query::PAGE)] + ($options->top === null ? []
                : ['$top' => (string) ($options->top - Query::PAGE)]) + $raw;
            $body['@odata.nextLink'] = url("odata/v4/{$set->name}").'?'.http_build_query($next, '', '&', PHP_QUERY_RFC3986);
        }

        return $this->json($body);
    }

    /**
     * `view=…`, an option of our own: only what passes the filter of a saved view.
     *
     * @return string|null condition in SQL
     */
    private function view(EntitySet $set, ?string $uid): ?string
    {
        if ($uid === null) {
            return null;
        }
        if (! in_array($set->name, ['Projects', 'Activities'], true)) {
            throw new ODataError(400, 'A view filters Projects and Activities.', 'view');
        }
        try {
            $filter = SavedFilter::named($uid, $this->reach);
        } catch (InvalidSelection $e) {
            throw new ODataError(400, ucfirst($e->getMessage()).'.', 'view');
        }

        return $set->name === 'Projects' ? $filter->onProjects() : $filter->onActivities();
    }

    /** @param  array<string, mixed>  $body */
    private function json(array $body): JsonResponse
    {
        return new JsonResponse($body, 200, ['OData-Version' => '4.01', 'Content-Type' => 'application/json;odata.metadata=minimal'],
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION);
    }
}

<?php

declare(strict_types=1);

namespace App\OData;

use App\Portfolio\SavedFilter;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Reihe\Core\Selection\InvalidSelection;

/** A read-only OData service, versions 4.01 and 4.0. */
final class ODataController
{
    public function __construct(private readonly Reader $reader)
    {
    }

    public function service(Request $request): Response
    {
        $form = Form::of($request, self::options($request)['$format'] ?? null);

        return $this->json($request, $form, ['@odata.context' => url('odata/v4/$metadata'),
            'value' => array_map(static fn (EntitySet $s): array => ['name' => $s->name, 'kind' => 'EntitySet', 'url' => $s->name],
                array_values(array_filter(Model::sets(),
                    fn (EntitySet $s): bool => $this->reader->mayRead($s->name))))]);
    }

    public function metadata(Request $request): Response
    {
        $format = strtolower(self::options($request)['$format'] ?? $request->header('Accept') ?? '');
        $version = trim($request->header('OData-MaxVersion') ?? '') === '4.0' ? '4.0' : '4.01';
        $isJson = ! str_contains($format, 'xml') && str_contains($format, 'json');
        $headers = ['OData-Version' => $version, 'Vary' => 'Accept, OData-MaxVersion, Authorization'];
        $body = $isJson ? Metadata::json($version) : Metadata::xml($version);

        return self::tagged($request, new Response($body, 200, $headers + ['Content-Type' => $isJson ? 'application/json'
            : 'application/xml']));
    }

    public function read(Request $request, string $path): Response
    {
        if (! in_array($request->method(), ['GET', 'HEAD'], true)) {
            throw str_starts_with($path, '$batch') ? new ODataError(501, '$batch is not supported.')
                : new ODataError(405, 'The feed is read only.', null, ['Allow' => 'GET, HEAD']);
        }
        $raw = self::options($request);
        $path = self::path($request) ?? $path;
        $plain = new Query($this->reader);
        $address = Address::of($path, $plain);
        $form = Form::of($request, $address->isValue || $address->isCount ? null : $raw['$format'] ?? null);
        if (isset($raw['$deltatoken'])) {
            return $this->json($request, $form, (new Changes($this->reader, $plain, $form))->since($address->set,
                $raw['$deltatoken']));
        }
        $query = new Query($this->reader, $this->view($address->set, $raw));
        if ($address->isCount) {
            return new Response((string) $query->count(Options::read($address->set, $raw), $address->where), 200,
                ['Content-Type' => 'text/plain', 'OData-Version' => $form->version]);
        }

        return $address->isOne ? $this->one($request, $form, $address, $query, $raw)
            : $this->json($request, $form, ...$this->many($form, $address, $query, $raw));
    }

    /** @param  array<string, string>  $raw */
    private function one(Request $request, Form $form, Address $address, Query $query, array $raw): Response
    {
        foreach (array_keys($raw) as $option) {
            if (str_starts_with($option, '$') && ! in_array($option, ['$select', '$expand', '$format'], true)) {
                throw new ODataError(400, "{$option} does not go with a single thing.", $option);
            }
        }
        $options = Options::read($address->set, $address->property === null ? $raw : ['$select' => $address->property->name]);
        [$found] = $query->page($options, 1, $address->where);
        if ($found === []) {
            return $address->mayBeNone && $address->property === null ? new Response('', 204, ['OData-Version' => $form->version])
                : throw $address->missing();
        }
        $answer = new Answer($query, $form, $this->reader);
        if ($address->property === null) {
            return $this->json($request, $form, ['@odata.context' => Answer::context($options, '/$entity')]
                + $answer->rows($options, $found)[0]);
        }
        $value = $answer->value($address->property, $found[0][$address->property->name]);
        if ($value === null) {
            return new Response('', 204, ['OData-Version' => $form->version]);
        }
        if ($address->isValue) {
            return new Response(is_bool($value) ? ($value ? 'true' : 'false') : (is_scalar($value) ? (string) $value : ''), 200,
                ['Content-Type' => 'text/plain;charset=utf-8', 'OData-Version' => $form->version]);
        }

        return $this->json($request, $form,
            ['@odata.context' => url("odata/v4/\$metadata#{$address->canonical}/{$address->property->name}"), 'value' => $value]);
    }

    /**
     * @param  array<string, string>  $raw
     * @return array{array<string, mixed>, bool} body, and whether changes can be asked for later
     */
    private function many(Form $form, Address $address, Query $query, array $raw): array
    {
        $options = Options::read($address->set, $raw);
        $place = SkipToken::read($raw['$skiptoken'] ?? null);
        $left = $place->left ?? $options->top;
        $size = min($form->size ?? $place->size ?? Query::PAGE, $left ?? Query::LARGEST);
        $tracked = $place->tracked;
        if ($tracked === null && $form->tracks && $place->after === null && $address->where === null && ! isset($raw['view'])
            && Changes::mayTrack($options)) {
            $tracked = (new Changes($this->reader, $query, $form))->keep($options, $raw)->token;
        }
        [$found, $next] = $size === 0 ? [[], null] : $query->page($options, $size, $address->where, $place->after);
        $body = ['@odata.context' => Answer::context($options)];
        if ($options->count) {
            $body['@odata.count'] = $query->count($options, $address->where);
        }
        $body['value'] = (new Answer($query, $form, $this->reader))->rows($options, $found);
        $left = $left === null ? null : $left - count($found);
        $self = url("odata/v4/{$address->canonical}");
        if ($next !== null && $left !== 0) {
            $body['@odata.nextLink'] = "{$self}?".self::written(['$skiptoken' => (string) new SkipToken($next, $left, $form->size
                ?? $place->size, $tracked)] + $raw);
        } elseif ($tracked !== null) {
            $body['@odata.deltaLink'] = "{$self}?".self::written(['$deltatoken' => $tracked]);
        }

        return [$body, $tracked !== null];
    }

    /**
     * `view=…`, an option of our own: only what passes the filter of a saved view.
     *
     * @param  array<string, string>  $raw
     * @return string|null condition in SQL on the row `r`
     */
    private function view(EntitySet $set, array $raw): ?string
    {
        if (! isset($raw['view'])) {
            return null;
        }
        if (! in_array($set->name, ['Projects', 'Activities'], true)) {
            throw new ODataError(400, 'A view filters Projects and Activities.', 'view');
        }
        if (isset($raw['$apply'])) {
            throw new ODataError(501, 'A view does not go with $apply.', 'view');
        }
        try {
            $filter = SavedFilter::named($raw['view'], $this->reader->reach);
        } catch (InvalidSelection $e) {
            throw new ODataError(400, ucfirst($e->getMessage()).'.', 'view');
        }

        return 'r.Id IN (SELECT '.($set->name === 'Projects' ? "p.uid FROM projects p WHERE {$filter->onProjects()})"
            : "a.uid FROM activities a JOIN projects p ON p.id = a.project_id WHERE {$filter->onActivities()})");
    }

    /** @return array<string, string> options by name, names of the protocol with their `$` */
    private static function options(Request $request): array
    {
        $raw = [];
        foreach ($request->query() as $name => $value) {
            $name = Options::name((string) $name);
            if (! is_string($value) || ! mb_check_encoding($value, 'UTF-8') || isset($raw[$name])) {
                throw new ODataError(400, "The option {$name} must be given once, as UTF-8 text.", $name);
            }
            $raw[$name] = $value;
        }

        return $raw;
    }

    /** The path behind the service root as it was sent: a key may have an encoded slash in it. */
    private static function path(Request $request): ?string
    {
        $path = rawurldecode(explode('?', $request->getRequestUri())[0]);

        return preg_match('~/odata/v4/(.+)$~s', $path, $m) === 1 && mb_check_encoding($m[1], 'UTF-8') ? $m[1] : null;
    }

    /** @param  array<string, string>  $options */
    private static function written(array $options): string
    {
        return str_replace('%24', '$', http_build_query($options, '', '&', PHP_QUERY_RFC3986));
    }

    /** @param  array<string, mixed>  $body */
    private function json(Request $request, Form $form, array $body, bool $isTracked = false): Response
    {
        if ($form->metadata === 'none') {
            unset($body['@odata.context']);
        }

        return self::tagged($request, new Response(json_encode($body, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES
            | JSON_PRESERVE_ZERO_FRACTION), 200, $form->headers($isTracked)));
    }

    /** Says nothing again that the client has (RFC 9110, section 13.1.2). */
    private static function tagged(Request $request, Response $response): Response
    {
        $response->setEtag(hash('xxh3', (string) $response->getContent()), true);
        $response->headers->set('Cache-Control', 'private, no-cache');
        $response->isNotModified($request);

        return $response;
    }
}

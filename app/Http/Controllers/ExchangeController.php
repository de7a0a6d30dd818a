<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Exchange\Branches;
use App\Exchange\Exporter;
use App\Exchange\ImportPreview;
use App\Exchange\Less;
use App\Exchange\Reading;
use App\Jobs\Work;
use App\Models\User;
use App\Portfolio\SavedFilter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Plan\Role;
use Reihe\Formats\Format;
use Reihe\Formats\Text;

/** Files out and in. What comes in is a proposal that is shown before it is applied. */
final class ExchangeController
{
    /** how a file is read, see {@see Reading} */
    private const READING = ['successorCarries', 'events', 'branches', 'update', 'fileWins', 'deleteMissing'];

    public function __construct(private readonly Reach $reach)
    {
    }

    public function export(Request $request): Response
    {
        /** @var array{projects?: string, view?: string, format: string, without?: string} $input */
        $input = $request->validate(['projects' => 'required_without:view|string', 'view' => 'string|max:64', 'format' => ['required',
            Rule::enum(Format::class)->only(Format::plans())], 'without' => 'string|max:60']);
        $less = array_values(array_filter(explode(',', $input['without'] ?? '')));
        if (array_diff($less, Less::PARTS) !== []) {
            throw ValidationException::withMessages(['without' => 'What can be left out: '.implode(', ', Less::PARTS).'.']);
        }
        $format = Format::from($input['format']);
        $keys = isset($input['view']) ? $this->passing($input['view']) : explode(',', $input['projects'] ?? '');

        /** @var array<string, int> $projects */
        $projects = $this->reach->limit(DB::table('projects'))->whereIn('key', $keys)->pluck('id', 'uid')->all();
        if (count($projects) !== count(array_unique($keys))) {
            throw ValidationException::withMessages(['projects' => 'One of these projects does not exist or you have no access to it.']);
        }
        $name = count($keys) === 1 ? Str::lower($keys[0]) : 'reihe-'.count($keys).'-projects';

        return new Response(Exporter::export($projects, $this->reach->projects(), $format,
            hash_hmac('sha256', 'recipient '.$this->reach->user->id, config()->string('app.key')),
            Branches::above(array_values($projects), $this->reach), new Less($less)), 200, [
                'Content-Type' => $format->mediaType(), 'Content-Disposition' => "attachment; filename=\"{$name}.{$format->suffix()}\"",
            ]);
    }

    /**
     * Projects that pass the filter of a saved view.
     *
     * @return list<string> keys
     */
    private function passing(string $view): array
    {
        /** @var list<string> $keys */
        $keys = $this->reach->limit(DB::table('projects as p'), 'p.branch_id')->whereIn('p.kept', ['here', 'outside'])
            ->whereRaw(SavedFilter::named($view, $this->reach)->onProjects())->orderBy('p.key')->pluck('p.key')->all();

        return $keys !== [] ? $keys : throw ValidationException::withMessages(['view' => 'No project passes this view.']);
    }

    public function import(Request $request): JsonResponse
    {
        $limit = config('reihe.import_limit');
        $request->validate(['file' => 'required|file|max:'.(is_int($limit) ? $limit * 1024 : 32768), 'branch' => 'required|string',
            'mapping' => 'nullable|json|max:1000000', ...array_fill_keys(self::READING, 'in:0,1')]);
        $reading = array_combine(self::READING, array_map($request->boolean(...), self::READING))
            + ['mapping' => json_decode((string) $request->string('mapping', '[]'), true, 8)];
        $branch = (string) $request->string('branch');
        $this->reach->require(Role::Planner,
            $this->reach->branch($branch) ?? throw ValidationException::withMessages(['branch' => 'This branch does not exist.']));
        $file = $request->file('file');
        assert($file instanceof UploadedFile);
        /** @var User $user */
        $user = $request->user();
        $name = $file->getClientOriginalName();
        if ((int) $file->getSize() > config()->integer('reihe.inline_import') * 1024) {
            return new JsonResponse(Work::start($user, 'preview', Text::clean(mb_scrub($name, 'UTF-8')),
                ['branch' => $branch] + $reading, (string) $file->get())->shown(), 202);
        }

        return new JsonResponse(ImportPreview::of((string) $file->get(), $name, $branch, $user, Reading::of($reading)),
            201);
    }
}

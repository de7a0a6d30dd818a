<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Access\Role;
use App\Exchange\Exporter;
use App\Exchange\Format;
use App\Exchange\Importer;
use App\Models\ChangeSet;
use App\Models\User;
use App\Planning\ChangeRequest;
use App\Planning\Planning;
use App\Planning\RippleView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Text;

/** Files out and in. What comes in is a proposal that is shown before it is applied. */
final class ExchangeController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function export(Request $request): Response
    {
        /** @var array{projects: string, format: string} $input */
        $input = $request->validate(['projects' => 'required|string', 'format' => ['required', Rule::enum(Format::class)]]);
        $format = Format::from($input['format']);
        $keys = explode(',', $input['projects']);
        /** @var array<string, int> $projects */
        $projects = $this->reach->limit(DB::table('projects'))->whereIn('key', $keys)->pluck('id', 'uid')->all();
        if (count($projects) !== count(array_unique($keys))) {
            throw ValidationException::withMessages(['projects' => 'One of these projects does not exist or you have no access to it.']);
        }
        $name = count($keys) === 1 ? Str::lower($keys[0]) : 'reihe-'.count($keys).'-projects';

        return new Response(Exporter::export($projects, $this->reach->projects(), $format, hash_hmac('sha256', 'recipient '.$this->reach->user->id, config()->string('app.key'))), 200, [
            'Content-Type' => $format->mediaType(), 'Content-Disposition' => "attachment; filename=\"{$name}.{$format->suffix()}\"",
        ]);
    }

    public function import(Request $request): JsonResponse
    {
        $limit = config('reihe.import_limit');
        $request->validate(['file' => 'required|file|max:'.(is_int($limit) ? $limit * 1024 : 32768), 'branch' => 'required|integer', 'successorCarries' => 'in:0,1']);
        $branch = $request->integer('branch');
        if ($this->reach->roleOn($branch) === null) {
            throw ValidationException::withMessages(['branch' => 'This branch does not exist.']);
        }
        $this->reach->require(Role::Planner, $branch);
        $file = $request->file('file');
        assert($file instanceof UploadedFile);
        $import = Importer::import((string) $file->get(), $file->getClientOriginalName(), $branch, $this->reach, $request->boolean('successorCarries'));
        /** @var User $user */
        $user = $request->user();
        $outcome = (new Planning($user))->dryRun(new ChangeRequest($import->operations));
        $stored = ChangeSet::query()->create(['uid' => (string) Str::ulid(), 'author_id' => $user->id, 'source' => 'import', 'reason' => mb_substr(Text::clean(mb_scrub($file->getClientOriginalName(), 'UTF-8')), 0, 500), 'state' => 'proposed',
            'operations' => array_map(static fn (Operation $o): array => $o->toArray(), $import->operations), 'operation_count' => count($import->operations), 'ripple' => $outcome->ripple, 'created_at' => now()]);
        $schedule = $outcome->schedule ?? throw new \LogicException('a dry run has a schedule');
        $counts = array_count_values(array_map(static fn (Operation $o): string => $o->kind->value, $import->operations));
        $activities = array_count_values(array_map(static fn (Activity $a): string => $a->project, $schedule->plan->activities));
        $projects = [];
        foreach ($import->operations as $o) {
            if ($o->kind === EntityKind::Project) {
                $p = $schedule->network;
                $projects[] = ['key' => $o->after['key'] ?? '', 'name' => $o->after['name'] ?? '',
                    'activities' => $activities[$o->uid] ?? 0,
                    'finish' => Instant::formatOrNull($schedule->dates->ownEnd[(int) array_search($o->uid, $p->projectUid, true)])];
            }
        }

        return new JsonResponse(['changeSet' => $stored->uid, 'format' => $import->format->value, 'notes' => $import->notes, 'projects' => $projects,
            'counts' => (object) $counts, 'ripple' => RippleView::of($outcome->ripple, $this->reach)], 201);
    }
}

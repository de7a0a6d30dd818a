<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Compose\Composer;
use App\Planning\Planning;
use App\Planning\PlanStore;
use App\Planning\TouchedProjects;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Change\Operation;
use Reihe\Core\Coding\CodeTable;
use Reihe\Core\Coding\EntryTable;
use Reihe\Core\Coding\Judgement;
use Reihe\Core\Coding\Merging;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Role;
use Reihe\Core\Resource\ResourceTable;

/** Change sets about codes and the hierarchy that the server puts together from a wish: tried (dryRun) or carried out. */
final class ComposeController
{
    private const MOST_ROWS = 10_000;

    private readonly Composer $composer;

    public function __construct(private readonly Reach $reach, Planning $planning)
    {
        $this->composer = new Composer($reach, $planning);
    }

    /** One of two entries, branches or calendars takes over what the other has. */
    public function merge(Request $request): JsonResponse
    {
        /** @var array{kind: string, from: string, into: string} $input */
        $input = $request->validate(['kind' => ['required', Rule::in(['entry', 'branch', 'calendar'])], 'from' => 'required|string',
            'into' => 'required|string|different:from']);
        $kind = EntityKind::from($input['kind']);
        [$plan] = PlanStore::load(TouchedProjects::of([Operation::delete($kind, $input['from'])]));
        foreach (['from', 'into'] as $field) {
            if ($plan->find($kind, $input[$field]) === null
                || ($kind === EntityKind::Branch && $this->reach->branch($input[$field]) === null)) {
                throw ValidationException::withMessages([$field => "This {$kind->entry()->noun} does not exist (any more)."]);
            }
        }
        $seen = $this->reach->projects();
        foreach ($kind === EntityKind::Entry ? $plan->codings : [] as $coding) {
            if ($coding->entry === $input['from'] && ! isset($seen[$coding->project])) {
                throw ValidationException::withMessages(['from' => 'This entry is also used in projects that you have no access to.']);
            }
        }
        $above = $kind === EntityKind::Calendar ? 'base' : 'parent';
        for ($at = $input['into']; is_string($at); $at = $plan->find($kind, $at)?->fields()[$above] ?? null) {
            if ($at === $input['from']) {
                throw ValidationException::withMessages(['into' => 'This lies below the one that goes.']);
            }
        }
        if ($kind === EntityKind::Entry && $plan->entries[$input['from']]->codeSet !== $plan->entries[$input['into']]->codeSet) {
            throw ValidationException::withMessages(['into' => 'This entry belongs to another code set.']);
        }

        $operations = match ($kind) {
            EntityKind::Entry => Merging::entries($plan, $input['from'], $input['into']),
            EntityKind::Branch => Merging::branches($plan, $input['from'], $input['into']),
            default => Merging::calendars($plan, $input['from'], $input['into']),
        };
        foreach ($kind === EntityKind::Calendar ? $operations : [] as $o) {
            $of = $o->kind->entry()->owner === Owner::Project ? $plan->ownerOf($o->kind, $o->uid) : null;
            if ($of !== null && ! isset($seen[$of])) {
                throw ValidationException::withMessages(['from' => 'This calendar is also used in projects that you have no access to.']);
            }
        }

        return $this->answer($request, $operations, "{$plan->nameOf($kind, $input['from'])} merged into "
            .$plan->callName($kind, $input['into']));
    }

    /** A table of what is coded with what. */
    public function codings(Request $request): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Contributor);
        $request->validate(['rows' => 'required|array|min:1|max:'.self::MOST_ROWS, 'rows.*' => 'array|size:3',
            'rows.*.*' => 'nullable|string|max:255', 'make' => 'boolean']);
        $rows = array_map(array_values(...), self::rows($request->input('rows')));
        /** @var list<array{string, string, string}> $rows */
        $keys = array_unique(array_map(static fn (array $row): string => explode('/', trim($row[0]))[0], $rows));
        $codes = array_unique(array_map(static fn (array $row): string => trim($row[0]), $rows));
        $ids = $this->reach->projectsByKey(array_values($keys));
        foreach (array_chunk($codes, 1000) as $chunk) {
            array_push($ids, ...$this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
                ->whereIn('activities.code', $chunk)->distinct()->pluck('projects.id')->all());
        }
        /** @var list<int> $ids */
        $table = CodeTable::read($rows, PlanStore::load(array_values(array_unique($ids)))[0], $request->boolean('make'),
            Composer::stem($request));

        return $this->answer($request, $table->operations, 'codes from a table', ['rows' => $table->rows]);
    }

    /** Resources from a table. */
    public function resources(Request $request): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Planner);
        $request->validate(['rows' => 'required|array|min:1|max:'.self::MOST_ROWS,
            'rows.*' => 'array:'.implode(',', ResourceTable::COLUMNS), 'rows.*.*' => 'nullable|string|max:255']);
        /** @var list<array<string, string>> $rows */
        $rows = self::rows($request->input('rows'));
        $table = ResourceTable::read($rows, PlanStore::load([])[0], Composer::stem($request));

        return $this->answer($request, $table->operations, 'resources from a table', ['rows' => $table->rows]);
    }

    /** The entries of a code set from a table. */
    public function entries(Request $request): JsonResponse
    {
        /** @var array{set: string} $input */
        $input = $request->validate(['set' => 'required|string', 'rows' => 'required|array|min:1|max:'.self::MOST_ROWS,
            'rows.*' => 'array:'.implode(',', EntryTable::COLUMNS), 'rows.*.*' => 'nullable|string|max:500']);
        [$plan] = PlanStore::load([]);
        $set = $plan->codeSets[$input['set']] ?? throw ValidationException::withMessages(['set' => 'This code set does not exist.']);
        /** @var list<array<string, string>> $rows */
        $rows = self::rows($request->input('rows'));
        $table = EntryTable::read($set, $rows, $plan, Composer::stem($request));

        return $this->answer($request, $table->operations, "entries of {$set->name} from a table", ['rows' => $table->rows]);
    }

    /** Weights from comparisons of two; nothing is changed. */
    public function judge(Request $request): JsonResponse
    {
        /** @var array{count: int, judgements: list<array{int, int, float}>} $input */
        $input = $request->validate(['count' => 'required|integer|min:2|max:'.Judgement::MOST, 'judgements' => 'present|array|max:200',
            'judgements.*' => 'array|size:3', 'judgements.*.0' => 'required|integer|min:0|lt:count',
            'judgements.*.1' => 'required|integer|min:0|lt:count', 'judgements.*.2' => 'required|numeric|min:0.1|max:10']);
        $judgement = Judgement::of((int) $input['count'],
            array_map(static fn (array $j): array => [(int) $j[0], (int) $j[1], (float) $j[2]],
                array_values(array_filter($input['judgements'], static fn (array $j): bool => $j[0] !== $j[1]))));

        return new JsonResponse(['weights' => $judgement->weights, 'eigenvalue' => $judgement->eigenvalue, 'ratio' => $judgement->ratio,
            'sound' => $judgement->isSound()]);
    }

    /**
     * @param  list<Operation>  $operations
     * @param  array<string, mixed>  $more
     */
    private function answer(Request $request, array $operations, string $reason, array $more = []): JsonResponse
    {
        return $this->composer->answer($request, $this->composer->carryOut($request, $operations, $reason), $more);
    }

    /** @return list<array<array-key, string>> texts, empty ones for what is left out */
    private static function rows(mixed $rows): array
    {
        $texts = [];
        foreach (array_filter(is_array($rows) ? $rows : [], is_array(...)) as $row) {
            $texts[] = array_map(static fn (mixed $cell): string => is_string($cell) ? $cell : '', $row);
        }

        return $texts;
    }
}

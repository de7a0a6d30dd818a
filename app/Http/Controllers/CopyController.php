<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Baselines\BaselineStore;
use App\Compose\Composer;
use App\Compose\CopyExtras;
use App\Compose\Sources;
use App\Planning\Planning;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Copying\Copy;
use Reihe\Core\Copying\CopyWish;
use Reihe\Core\Copying\Duplicate;
use Reihe\Core\Copying\Extract;
use Reihe\Core\Copying\Handovers;
use Reihe\Core\Copying\Parts;
use Reihe\Core\Plan\CopyPart;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WholeDays;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** Projects from projects and templates, templates from projects; and what there is to copy from. */
final class CopyController
{
    private const MOST = 50;

    private readonly Composer $composer;

    private readonly Sources $sources;

    public function __construct(private readonly Reach $reach, Planning $planning)
    {
        $this->composer = new Composer($reach, $planning);
        $this->sources = new Sources($reach);
    }

    /** Templates and fragments that the user may copy from. */
    public function sources(): JsonResponse
    {
        $seen = $this->reach->projects();
        $versions = DB::table('fragment_versions')->groupBy('fragment')->selectRaw('fragment, MAX(number) AS n')->pluck('n', 'fragment');
        $counts = DB::table('activities')->groupBy('project_id')->selectRaw('project_id, count(*) as n')->pluck('n', 'project_id');
        $sources = [];
        foreach (DB::table('projects')->join('branches', 'branches.id', '=', 'projects.branch_id')
            ->whereIn('projects.id', $this->reach->sources())->orderBy('kept')->orderBy('key')
            ->get(['projects.*', 'branches.uid as branch', 'branches.name as branch_name']) as $p) {
            /** @var \stdClass&object{id: int, uid: string, archived: int} $p */
            $isSeen = isset($seen[$p->uid]); // branches above one's own are not, but what they keep for those below is
            $sources[] = ['uid' => $p->uid, 'key' => $p->key, 'name' => $p->name, 'kept' => $p->kept,
                'branch' => $isSeen ? $p->branch : null, 'branchName' => $isSeen ? $p->branch_name : null, 'home' => $p->home,
                'start' => $p->start, 'activities' => $counts[$p->id] ?? 0, 'version' => $versions[$p->uid] ?? 0,
                'archived' => (bool) $p->archived, 'mayOpen' => $isSeen, 'madeFrom' => $p->made_from];
        }

        return new JsonResponse(['sources' => $sources]);
    }

    /** Rows once more, in their own project or another one. */
    public function duplicate(Request $request): JsonResponse
    {
        /** @var array{from: string, wbs?: list<string>, activities?: list<string>, to: string, parent?: string|null,
         *     after?: string|null} $input */
        $input = $request->validate(['from' => 'required|string', 'wbs' => 'array|max:5000', 'wbs.*' => 'string',
            'activities' => 'array|max:20000', 'activities.*' => 'string', 'to' => 'required|string', 'parent' => 'nullable|string',
            'after' => 'nullable|string']);
        $plan = $this->composer->plan($this->sources->ids(array_values(array_unique([$input['from'], $input['to']]))));
        $copy = Duplicate::of($plan, $input['from'], $input['wbs'] ?? [], $input['activities'] ?? [], $input['to'],
            $input['parent'] ?? null,
            $input['after'] ?? null, Composer::stem($request));
        if ($copy->operations === []) {
            throw ValidationException::withMessages(['activities' => 'Choose at least one row of the project.']);
        }

        return $this->composer->answer($request, $this->composer->carryOut($request, $copy->operations,
            "rows of {$plan->projects[$input['from']]->key} once more"), ['top' => $copy->top]);
    }

    /** How much of what a copy or a fragment may leave out there is in projects, or in some rows of one. */
    public function parts(Request $request): JsonResponse
    {
        /** @var array{projects: list<string>, wbs?: list<string>, activities?: list<string>} $input */
        $input = $request->validate(['projects' => 'required|array|min:1|max:'.self::MOST, 'projects.*' => 'string|distinct',
            'wbs' => 'array|max:5000', 'wbs.*' => 'string', 'activities' => 'array|max:20000', 'activities.*' => 'string']);
        $plan = $this->sources->plan($input['projects']);
        $part = isset($input['wbs']) || isset($input['activities'])
            ? Extract::of($plan, $input['projects'][0], $input['wbs'] ?? [], $input['activities'] ?? []) : $plan;
        $baselines = DB::table('baselines')->whereIn('project_uid', $input['projects'])->count();

        return new JsonResponse(['parts' => Parts::of($part) + ['baselines' => $baselines]]);
    }

    /** Copies projects, together with the links among them. */
    public function copy(Request $request): JsonResponse
    {
        /** @var array{projects: list<array{uid: string, key: string, name: string}>, branch: string, start?: string|null, kept?: string,
         *     parts?: list<string>, handovers?: string, baselines?: bool, fields?: array<string, mixed>, codes?: list<string>,
         *     own?: array<string, string>, giverKeys?: array<string, string>} $input */
        $input = $request->validate([
            'projects' => 'required|array|min:1|max:'.self::MOST, 'projects.*.uid' => 'required|string|distinct',
            'projects.*.key' => 'required|string|max:20', 'projects.*.name' => 'required|string|max:255', 'branch' => 'required|string',
            'start' => 'nullable|string', 'kept' => [Rule::in([Kept::Here->value, Kept::Template->value])],
            'parts' => 'array', 'parts.*' => [Rule::in(CopyPart::wishes())], 'handovers' => [Rule::enum(Handovers::class)],
            'baselines' => 'boolean', 'fields' => 'array', 'codes' => 'array', 'codes.*' => 'string', 'own' => 'array',
            'own.*' => 'string|max:500', 'giverKeys' => 'array|max:50', 'giverKeys.*' => 'string|max:20',
        ]);
        $projects = [];
        foreach ($input['projects'] as $p) {
            $projects[$p['uid']] = ['key' => $p['key'], 'name' => $p['name']];
        }
        $plan = $this->sources->plan(array_map(strval(...), array_keys($projects)));
        try {
            $start = ($input['start'] ?? null) === null ? null : Instant::parse(WholeDays::moment($input['start'], DayEdge::First,
                self::axis($plan, $input['projects'][0]['uid'])));
        } catch (InvalidInstant $e) {
            throw new InvalidField('start', $e->getMessage());
        }
        $handovers = Handovers::from($input['handovers'] ?? Handovers::Open->value);
        $copy = Copy::of($plan, new CopyWish($projects, $input['branch'], Composer::stem($request), $start,
            Kept::from($input['kept'] ?? Kept::Here->value), $input['parts'] ?? null, $handovers,
            $input['giverKeys'] ?? []), $handovers === Handovers::Tie ? $this->sources->givers($plan, $input['giverKeys'] ?? []) : []);
        $extras = new CopyExtras($plan, $input['fields'] ?? [], $input['codes'] ?? [], $input['own'] ?? []);
        $outcome = $this->composer->carryOut($request, $extras->into($copy->operations),
            implode(', ', array_column($projects, 'key')).' from '
            .implode(', ', array_map(static fn (string $uid): string => $plan->projects[$uid]->key, array_map(strval(...),
                array_keys($projects)))));
        if ($outcome->changeSet !== null && $request->boolean('baselines')) {
            foreach (array_keys($projects) as $uid) {
                BaselineStore::copy((string) $uid, $copy, (string) Str::ulid(), $this->reach->user);
            }
        }
        $made = array_map(static fn (int|string $uid): string => $copy->made[$uid], array_keys($projects));

        return $this->composer->answer($request, $outcome, ['projects' => $made,
            'renamed' => array_map(static fn (string $from, string $to): array => [$from, $to], array_keys($copy->codes),
                array_values($copy->codes)),
            'openEnds' => count(array_filter($outcome->operations, static fn ($o): bool => $o->kind->value === 'openEnd'))]);
    }

    private static function axis(Plan $plan, string $project): WorkAxis
    {
        return new WorkAxis($plan->calendars[$plan->projects[$project]->calendar], $plan->calendars);
    }
}

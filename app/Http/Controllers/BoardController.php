<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Board\ActivityColumns;
use App\Board\BoardQuery;
use App\Board\BoardTable;
use App\Board\ReasonView;
use App\Database\Rows;
use App\Drafts\DraftPlan;
use App\Drafts\DraftStore;
use App\History\Visits;
use App\Planning\Connected;
use App\Planning\PlanStore;
use App\Selection\BandView;
use App\Selection\EnterpriseColumns;
use App\Selection\SqlCondition;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Schedule\FloatPaths;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Schedule\Trace;
use Reihe\Core\Selection\Arrangement;
use Reihe\Core\Selection\Band;
use Reihe\Core\Selection\InvalidSelection;
use Reihe\Core\Selection\View;
use Reihe\Core\Time\Instant;

/** The rows of a working set, and why an activity lies where it lies. */
final class BoardController
{
    private const MOST_PATHS = 25;

    public function __construct(private readonly Reach $reach)
    {
    }

    public function show(Request $request): JsonResponse
    {
        $query = $this->query($request);
        Visits::look($this->reach->user, $this->ids($request));

        return new JsonResponse($query->all());
    }

    /**
     * What others changed since the revisions that the board shows (project uid => revision); nothing (204) most of the time. Sent, not
     * in the address: that of a board of hundreds of projects is longer than addresses may be.
     */
    public function news(Request $request): JsonResponse|Response
    {
        /** @var array{projects: list<string>, since: array<array-key, int>} $input */
        $input = $request->validate(['projects' => 'present|array|max:2000', 'projects.*' => 'string|max:64',
            'since' => 'present|array|max:2000', 'since.*' => 'integer|min:0']);
        /** @var array<string, int> $known */
        $known = array_map(intval(...), $input['since']);
        $ids = $this->reach->workingSet($input['projects'], $known);
        $query = new BoardQuery($this->reach, $ids);
        Visits::look($this->reach->user, $ids);

        return $query->isCurrent($known) ? new Response(status: 204)
            : new JsonResponse($query->since($known) + ['by' => $this->authors($known)]);
    }

    /**
     * @param  array<string, int>  $known
     * @return list<string> names of the others who changed these projects since
     */
    private function authors(array $known): array
    {
        $current = $this->reach->limit(DB::table('projects'))->whereIn('uid', array_map(strval(...), array_keys($known)))
            ->pluck('revision', 'uid')->all();
        $changed = array_filter($known, static fn (int $r, int|string $uid): bool => ($current[$uid] ?? 0) > $r, ARRAY_FILTER_USE_BOTH);
        if ($changed === []) {
            return [];
        }

        /** @var list<string> */
        return DB::table('change_set_projects as p')->join('change_sets as s', 's.id', '=', 'p.change_set_id')
            ->join('users as u', 'u.id', '=', 's.author_id')->where('u.id', '!=', $this->reach->user->id)
            ->where(static function (Builder $any) use ($changed): void {
                foreach ($changed as $uid => $revision) {
                    $any->orWhere(static fn (Builder $q): Builder => $q->where('p.project_uid', (string) $uid)
                        ->where('p.revision', '>', $revision));
                }
            })->distinct()->pluck('u.name')->all();
    }

    /** Activities that a view asks for, in order, and its bands with their roll-up. */
    public function arrange(Request $request): JsonResponse
    {
        $projects = $this->ids($request);
        [$plan, $ids] = PlanStore::load([]);
        $enterprise = new EnterpriseColumns($plan, $this->reach);
        $columns = new ActivityColumns($enterprise, $ids, 'p.id IN '.Rows::in($projects));
        $written = json_decode((string) $request->query('view', '{}'), true, 32);
        $view = View::read(is_array($written) ? $written : throw new InvalidSelection('', 'must be written as JSON'), $columns->columns());
        $today = Instant::parse(now()->format('Y-m-d').'T12:00');
        $where = 'p.id IN '.Rows::in($projects)
            .($view->filter === null ? '' : ' AND '.(new SqlCondition($columns, $today))->of($view->filter));
        $trees = array_values(array_filter([...$view->group, ...array_column($view->sort, 0)],
            static fn (string $c): bool => str_starts_with($c, 'code:')));
        $arrangement = Arrangement::of($columns->rows($where, $trees), $columns->columns(), $view, $enterprise->retired());

        return new JsonResponse(['uids' => $arrangement->uids(), 'bands' => array_map(static fn (Band $b): array => BandView::of($b, $plan),
            $arrangement->bands), 'columns' => BandView::columns($columns->columns())]);
    }

    /** What projects and activities of a working set are coded with, and with what they may be. */
    public function codes(Request $request): JsonResponse
    {
        $in = Rows::in($this->ids($request));
        [$plan, $ids] = PlanStore::load([]);
        $codings = Rows::all("SELECT g.uid, p.uid, a.uid, s.uid, e.uid FROM codings g JOIN projects p ON p.id = g.project_id
                LEFT JOIN activities a ON a.id = g.activity_id JOIN code_entries e ON e.id = g.entry_id
                JOIN code_sets s ON s.id = e.code_set_id
                WHERE p.id IN {$in} ORDER BY g.id");

        $enterprise = new EnterpriseColumns($plan, $this->reach);
        $own = [];
        foreach ((new ActivityColumns($enterprise, $ids, "p.id IN {$in}"))
            ->ownValues($request->boolean('formulas')) as [, $activity, $values, $typed]) {
            foreach ($values as $field => $value) {
                $own[] = [$activity, $field, $typed[$field] ?? null, $value];
            }
        }

        return new JsonResponse(['ownFields' => array_map(static fn (OwnField $f): array => ['uid' => $f->uid] + $f->fields(),
            array_values($enterprise->ownFields(CodeScope::Activity))),
            'remarks' => BoardTable::of(['activity', 'count', 'open'],
                Rows::all("SELECT COALESCE(a.uid, w.uid, p.uid) AS of, COUNT(*), CAST(SUM(r.todo AND NOT r.done) AS SIGNED)
                FROM remarks r JOIN projects p ON p.id = r.project_id LEFT JOIN activities a ON a.id = r.activity_id
                LEFT JOIN wbs_elements w ON w.id = r.wbs_id WHERE p.id IN {$in} AND r.link_id IS NULL GROUP BY of")),
            'own' => BoardTable::of(['activity', 'field', 'uid', 'value'], $own),
            'codeSets' => array_map(static fn (CodeSet $s): array => CodeSetController::shown($s, $plan),
                $enterprise->sets()),
            'codings' => BoardTable::of(['uid', 'project', 'activity', 'set', 'entry'], $codings)]);
    }

    /** Who and what activities of a working set are done with; asked for where that shows. */
    public function assignments(Request $request): JsonResponse
    {
        $in = Rows::in($this->ids($request));
        [$plan] = PlanStore::load([]);

        return new JsonResponse([
            'resources' => array_values(array_map(static fn (Resource $r): array => ['uid' => $r->uid, 'key' => $r->key, 'name' => $r->name,
                'kind' => $r->kind->value, 'unit' => $r->unit, 'retired' => $r->retired], $plan->resources)),
            'assignments' => BoardTable::of(['uid', 'activity', 'resource', 'intensity', 'remainingWork', 'actualWork', 'quantity',
                'perHour', 'spread', 'offset', 'cost'], Rows::all("SELECT s.uid, a.uid, r.uid, s.intensity, s.remaining_work, s.actual_work,
                    s.quantity, s.per_hour, s.spread, s.`offset`, s.cost
                FROM assignments s JOIN activities a ON a.id = s.activity_id LEFT JOIN resources r ON r.id = s.resource_id
                WHERE s.project_id IN {$in} ORDER BY s.id"))]);
    }

    /** @return list<int> */
    private function ids(Request $request): array
    {
        return $this->reach->projectsByKey(array_values(array_filter(explode(',', (string) $request->query('projects')))));
    }

    private function query(Request $request): BoardQuery
    {
        return new BoardQuery($this->reach, $this->reach
            ->projectsByKey(array_values(array_filter(explode(',', (string) $request->query('projects'))))));
    }

    public function reasons(Request $request, string $uid): JsonResponse
    {
        $view = new ReasonView($this->around($request, $uid), $this->reach->projects());

        return new JsonResponse($view->reasons($uid) + ['holders' => $view->holders($uid)]);
    }

    public function trace(Request $request, string $uid): JsonResponse
    {
        $schedule = $this->around($request, $uid);
        $view = new ReasonView($schedule, $this->reach->projects());
        $trace = Trace::of($schedule, $uid);

        return new JsonResponse(['drivers' => $view->steps($trace->drivers), 'activity' => $view->steps([$uid])[0],
            'driven' => $view->steps($trace->driven)]);
    }

    public function floatPaths(Request $request, string $uid): JsonResponse
    {
        return $this->paths($request, $this->around($request, $uid), $uid);
    }

    /** Chains into a link: into the date of its predecessor that it passes on, which for a handover is the giver's. */
    public function linkPaths(Request $request, string $uid): JsonResponse
    {
        /** @var object{from: string, from_project_id: int, to_project_id: int}|null $link */
        $link = DB::table('links')->join('activities', 'activities.id', '=', 'links.from_id')->where('links.uid', $uid)
            ->first(['activities.uid as from', 'from_project_id', 'to_project_id']);
        abort_if($link === null || array_intersect([$link->from_project_id, $link->to_project_id], $this->reach->projects()) === [], 404);

        return $this->paths($request, Connected::network([$link->to_project_id]), $link->from);
    }

    private function paths(Request $request, Schedule $schedule, string $uid): JsonResponse
    {
        $view = new ReasonView($schedule, $this->reach->projects());

        return new JsonResponse(['paths' => array_map($view->path(...),
            FloatPaths::into($schedule, $uid, max(1, min(self::MOST_PATHS, $request->integer('most', 10)))))]);
    }

    /** Schedule of the project of an activity, with everything joined to it; as a draft has it, where one is named. */
    private function around(Request $request, string $activity): Schedule
    {
        $draft = $request->query('draft');
        $found = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
            ->where('activities.uid', $activity)->value('projects.id');
        if (is_string($draft) && $draft !== '') {
            $operations = (new DraftStore($this->reach))->find($draft)->operations();
            $after = DraftPlan::of($operations, [], is_int($found) ? [$found] : [], null)->after;
            $project = $after->plan->projects[$after->plan->activities[$activity]->project ?? ''] ?? null;
            $made = DB::table('activities')->where('uid', $activity)->doesntExist(); // in the draft
            abort_if(! isset($after->network->node[$activity]) || (! is_int($found)
                && (! $made || $project === null || $this->reach->branch((string) $project->branch) === null)), 404);

            return $after;
        }
        abort_if(! is_int($found), 404);

        return Connected::network([$found]);
    }
}

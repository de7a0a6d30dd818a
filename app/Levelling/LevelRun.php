<?php

declare(strict_types=1);

namespace App\Levelling;

use App\Access\Reach;
use App\Database\Rows;
use App\Drafts\DraftPlan;
use App\Drafts\DraftStore;
use App\Models\Draft;
use App\Planning\ActivityNames;
use App\Planning\Connected;
use App\Planning\Ids;
use App\Planning\Tables\Table;
use App\Planning\TouchedProjects;
use App\Resources\LoadQuery;
use App\Resources\LoadWish;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\Axes;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\Operation;
use Reihe\Core\Levelling\Levelled;
use Reihe\Core\Levelling\Waited;
use Reihe\Core\Levelling\Wish;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * Levels stored projects. What keeps every resource within what there is of it becomes a draft of the user, a proposal like any other;
 * projects out of reach keep what they use, and stay unnamed.
 */
final class LevelRun
{
    /** activities of each list that are named in the answer */
    private const NAMED = 500;

    /** days from today on in which overload is counted */
    private const DAYS = 3653;

    private readonly ActivityNames $names;

    /** @var array<string, int> uid => id of the projects that the user sees */
    private readonly array $visible;

    /** @param  \Closure(string, int, int): void  $tick  hears the step and how far it is; what it throws ends the work */
    public function __construct(private readonly Reach $reach, private readonly \Closure $tick)
    {
        $this->names = new ActivityNames;
        $this->visible = $reach->projects();
    }

    /**
     * Ids of the projects, when they may be levelled by the user.
     *
     * @param  list<string>  $uids
     * @return array<string, int> by uid, in their order
     *
     * @throws AuthorizationException
     */
    public static function mayLevel(array $uids, Reach $reach): array
    {
        $ids = [];
        $rows = $reach->limit(DB::table('projects'))->whereIn('uid', $uids)->get(['uid', 'id', 'key', 'branch_id', 'kept', 'archived']);
        /** @var array<string, object{uid: string, id: int, key: string, branch_id: int, kept: string, archived: int}> $found */
        $found = $rows->keyBy('uid')->all();
        foreach ($uids as $uid) {
            $project = $found[$uid] ?? null;
            abort_if($project === null, 404);
            $reach->require(Role::Planner, $project->branch_id);
            abort_if($project->kept !== Kept::Here->value || $project->archived === 1, 422,
                "{$project->key} is archived or not planned here; nothing of it can be held back.");
            $ids[$uid] = $project->id;
        }

        return $ids;
    }

    /** @return array<string, mixed> what came of it ({@see docs/openapi.yaml}, Levelled) */
    public function of(LevelWish $wish): array
    {
        ($this->tick)('reading', 0, 0);
        $ids = self::mayLevel($wish->projects, $this->reach);
        $rows = new Ids;
        /** @var array<string, Calendar> $calendars */
        $calendars = Table::of(EntityKind::Calendar)->load('(0)', $rows);
        /** @var array<string, Resource> $resources */
        $resources = Table::of(EntityKind::Resource)->load('(0)', $rows);
        $wanted = [];
        $chosen = $wish->resources === null ? $resources : array_intersect_key($resources, array_flip($wish->resources));
        foreach (array_keys($chosen) as $uid) {
            $wanted[$rows->id(EntityKind::Resource, (string) $uid)] = (string) $uid;
        }
        [$assignments, $users] = self::assignments($wanted);
        ($this->tick)('calculating', 0, 0);
        $schedule = Connected::network(array_values(array_unique([...array_values($ids), ...$users])));
        $until = microtime(true) + $wish->seconds;
        $levelled = Levelled::of($schedule->network, $this->names, $assignments, $resources, new Axes($calendars), new Wish(
            array_fill_keys($wish->projects, true), array_values($wanted), $wish->from, $wish->to, $wish->withinFloat, $wish->criteria,
            array_flip($wish->projects), $wish->codeSet === null ? [] : self::codeOrder($wish->codeSet, array_values($ids)),
            tries: $wish->tries), function (int $tried, int $of) use ($until): bool {
                ($this->tick)('levelling', $tried, $of);

                return microtime(true) < $until;
            });

        $draft = $this->draft($wish, $levelled, $schedule);
        $overload = [$this->overload($wish, null), $draft === null ? null : $this->overload($wish, $draft)];

        return ['draft' => $draft?->uid, 'projects' => self::keys($draft),
            'overload' => ['before' => $overload[0], 'after' => $overload[1] ?? $overload[0]]] + $this->told($levelled, $schedule);
    }

    /** Days of resources on which more is asked for than there is, from today on, as it is or as a draft has it. */
    private function overload(LevelWish $wish, ?Draft $draft): int
    {
        $first = intdiv(Instant::parse(now()->format('Y-m-d\TH:i')), 1440);
        $after = $draft === null ? null : DraftPlan::of($draft->operations(), [], [], null)->after;
        $load = (new LoadQuery($this->reach, $after))->of(new LoadWish([$first, $first + self::DAYS], null, $wish->resources, false));

        return array_sum(array_map(static fn (array $l): int => $l['overloaded'][0], $load));
    }

    /** What somebody wants, as the core wants it, becomes a draft. */
    private function draft(LevelWish $wish, Levelled $levelled, Schedule $schedule): ?Draft
    {
        if ($levelled->delays === []) {
            return null;
        }
        ($this->tick)('writing', 0, 0);
        $n = $schedule->network;
        $operations = [];
        foreach ($levelled->delays as $uid => $minutes) {
            $operations[] = Operation::update(EntityKind::Activity, (string) $uid, ['levelDelay' => $minutes],
                ['levelDelay' => $n->delay[$n->node[$uid]] ?? 0]);
        }

        return (new DraftStore($this->reach))->made($wish->name, $operations);
    }

    /** @return array<string, mixed> */
    private function told(Levelled $levelled, Schedule $schedule): array
    {
        $held = array_slice($levelled->waited, 0, self::NAMED, true);
        $unfit = array_slice($levelled->unfit, 0, self::NAMED, true);
        $holders = array_merge(...array_values(array_map(static fn (Waited $w): array => $w->holders, $held)));
        $this->names->expect(array_map(strval(...), [...array_keys($held), ...array_keys($unfit), ...$holders]));
        $n = $schedule->network;
        $ends = [];
        foreach ($levelled->ends as $uid => [$before, $after]) {
            $ends[] = ['project' => isset($this->visible[$uid]) ? (string) $uid : null, 'before' => $before, 'after' => $after];
        }
        $waited = [];
        foreach ($held as $uid => $w) {
            $i = $n->node[$uid];
            $waited[] = $this->named((string) $uid) + ['minutes' => $levelled->delays[$uid] ?? $n->delay[$i] ?? 0, 'day' => $n->dayOf($i),
                'resource' => $w->resource, 'holders' => array_map($this->named(...), array_slice($w->holders, 0, 5))];
        }

        $count = count(array_filter($levelled->delays));

        return ['held' => $count, 'released' => count($levelled->delays) - $count,
            'ends' => $ends, 'waited' => $waited, 'unfitCount' => count($levelled->unfit), 'unfit' => array_map(
                fn (int|string $uid): array => $this->named((string) $uid) + ['resources' => $unfit[$uid]], array_keys($unfit)),
            'tries' => $levelled->tries];
    }

    /** @return array{uid: string|null, project: string|null, code: string|null, name: string|null} nothing of what is out of reach */
    private function named(string $uid): array
    {
        $found = $this->names->find($uid);

        return $found === null || ! isset($this->visible[$found['project']])
            ? ['uid' => null, 'project' => null, 'code' => null, 'name' => null]
            : ['uid' => $uid, 'project' => $found['key'], 'code' => $found['code'], 'name' => $found['name']];
    }

    /** @return list<string> keys of the projects in which a draft holds something back */
    private static function keys(?Draft $draft): array
    {
        $touched = $draft === null ? [] : TouchedProjects::of($draft->operations());

        /** @var list<string> */
        return DB::table('projects')->whereIn('id', $touched)->orderBy('key')->pluck('key')->all();
    }

    /**
     * Work that is left, of all live projects.
     *
     * @param  array<int, string>  $resources  id => uid
     * @return array{list<Assignment>, list<int>} and the ids of the projects
     */
    private static function assignments(array $resources): array
    {
        $found = $projects = [];
        foreach ($resources === [] ? [] : Rows::each('SELECT s.uid, a.uid, s.resource_id, s.remaining_work, s.spread, s.weeks, s.`offset`,
                s.project_id FROM assignments s JOIN activities a ON a.id = s.activity_id JOIN projects p ON p.id = s.project_id
            WHERE s.resource_id IN '.Rows::in(array_keys($resources)).' AND '.LoadQuery::LIVE
                .' AND s.remaining_work > 0 AND a.actual_finish IS NULL ORDER BY s.id') as $row) {
            /** @var array{string, string, int, int, string, string, int, int} $row */
            [$uid, $activity, $resource, $work, $spread, $weeks, $offset, $project] = $row;
            $found[] = new Assignment($uid, $activity, remainingWork: (int) $work, resource: $resources[$resource],
                spread: Spread::from($spread), weeks: $spread === Spread::Hand->value ? LoadQuery::weeks($weeks) : [],
                offset: (int) $offset);
            $projects[$project] = true;
        }

        return [$found, array_keys($projects)];
    }

    /**
     * The place of each activity in the order of a code set, top level first, what lies below an entry after it; of a set of projects that
     * of its project.
     *
     * @param  list<int>  $projects  ids
     * @return array<string, int> activity uid => place; nothing of those without a value
     */
    private static function codeOrder(string $codeSet, array $projects): array
    {
        $below = [];
        foreach (Rows::all('SELECT e.id, e.parent_id FROM code_entries e JOIN code_sets s ON s.id = e.code_set_id
            WHERE s.uid IN '.Rows::quoted([$codeSet]).' ORDER BY e.position, e.id') as $row) {
            /** @var array{int, int|null} $row */
            $below[$row[1] ?? 0][] = $row[0];
        }
        $place = [];
        $walk = static function (int $of) use (&$walk, &$place, $below): void {
            foreach ($below[$of] ?? [] as $id) {
                $place[$id] = count($place);
                $walk($id);
            }
        };
        $walk(0);
        $order = [];
        $of = ' WHERE g.entry_id IN '.Rows::in(array_keys($place)).' AND g.project_id IN '.Rows::in($projects);
        foreach ($place === [] ? [] : Rows::all("SELECT a.uid, g.entry_id FROM codings g JOIN activities a ON a.id = g.activity_id{$of}
            UNION ALL SELECT a.uid, g.entry_id FROM codings g JOIN activities a ON a.project_id = g.project_id{$of}
                AND g.activity_id IS NULL") as $row) {
            /** @var array{string, int} $row */
            $order[$row[0]] = min($order[$row[0]] ?? PHP_INT_MAX, $place[$row[1]]);
        }

        return $order;
    }
}

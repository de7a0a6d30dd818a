<?php

declare(strict_types=1);

namespace App\Levelling;

use App\Access\Reach;
use App\Database\Rows;
use App\Drafts\DraftBoard;
use App\Drafts\DraftPlan;
use App\Drafts\DraftStore;
use App\Models\Draft;
use App\Planning\Ids;
use App\Planning\Tables\Table;
use App\Resources\LoadQuery;
use App\Resources\LoadWish;
use Illuminate\Auth\Access\AuthorizationException;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\CoreException;
use Reihe\Core\Levelling\Criterion;
use Reihe\Core\Plan\CapacityStep;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\Role;
use Reihe\Core\Resource\Period;
use Reihe\Core\Time\Instant;

/**
 * Ways out of an overload, each a draft of its own: activities held back, worked on with less intensity for longer, or more of the
 * resource for a while. What each would do stands beside the others.
 *
 * @phpstan-type Behind array{uid: string, project: string, duration: int,
 *     assignments: list<array{uid: string, intensity: int, work: int, offset: int}>}
 */
final class WaysOut
{
    /** shares of the present intensity that are tried, in percent */
    private const SHARES = [90, 80, 70, 60, 50, 40, 30, 25];

    private const TRIES = 60;

    private const SECONDS = 60;

    /** days after the overload in which is counted what it becomes */
    private const DAYS = 3653;

    /** @param  \Closure(string, int, int): void  $tick  hears the step and how far it is; what it throws ends the work */
    public function __construct(private readonly Reach $reach, private readonly \Closure $tick)
    {
    }

    /**
     * @param  string  $resource  uid
     * @param  int  $first  day on which it is overloaded, since 2000-01-01
     * @param  int  $last  the last one
     * @return array<string, mixed> {@see docs/openapi.yaml}, WaysOut
     */
    public function of(string $resource, int $first, int $last): array
    {
        ($this->tick)('reading', 0, 0);
        $rows = new Ids;
        Table::of(EntityKind::Calendar)->load('(0)', $rows);
        $found = Table::of(EntityKind::Resource)->load('(0)', $rows)[$resource] ?? null;
        abort_if(! $found instanceof Resource || $found->isMaterial(), 404);
        $day = (new \DateTimeImmutable(substr(Instant::format($first * 1440), 0, 10)))->format('j M Y');
        $behind = $this->behind($resource, $first, $last);
        $ways = [];
        try {
            foreach (['level' => 'held back', 'intensity' => 'less intense', 'capacity' => 'more of it'] as $way => $name) {
                $ways[] = $this->way($way, "{$found->title()}, {$day}: {$name}", $found, $first, $last, $behind);
            }
        } catch (\Throwable $e) { // of what is cancelled or fails nothing stays
            Draft::query()->whereIn('uid', array_filter(array_column($ways, 'draft')))->delete();
            throw $e;
        }

        return ['resource' => $resource, 'from' => $first, 'to' => $last, 'now' => $this->overload($resource, $first, $last, null),
            'ways' => $ways];
    }

    /**
     * @param  list<Behind>  $behind
     * @return array<string, mixed>
     */
    private function way(string $way, string $name, Resource $resource, int $first, int $last, array $behind): array
    {
        try {
            [$draft, $more] = match ($way) {
                'level' => $this->level($name, $resource, $first, $this->behind($resource->uid, $first, $last + self::DAYS)),
                'intensity' => $this->lower($name, $resource, $first, $last, $behind),
                default => $this->add($name, $resource, $first, $last),
            };

            return ['way' => $way, 'draft' => $draft->uid, 'why' => null] + $more
                + $this->does($resource->uid, $first, $last, $draft->operations());
        } catch (AuthorizationException|CoreException|NoWay $e) {
            $why = match (true) { // what is said of a plan may name what is out of reach
                $e instanceof InvalidOperation => $e->why,
                $e instanceof CoreException => 'it leads to dates that cannot be',
                default => $e->getMessage(),
            };

            return ['way' => $way, 'draft' => null, 'why' => $why, 'share' => null, 'units' => null]
                + $this->does($resource->uid, $first, $last, []);
        }
    }

    /**
     * Held back, from the overload on.
     *
     * @param  list<array{project: string}>  $behind
     * @return array{Draft, array{share: null, units: null}}
     */
    private function level(string $name, Resource $resource, int $first, array $behind): array
    {
        $projects = array_values(array_unique(array_column($behind, 'project')));
        $made = $projects === [] ? throw new NoWay('nothing behind it is yours to plan, or all of it has begun')
            : (new LevelRun($this->reach, $this->tick))->of(new LevelWish($name, $projects, [$resource->uid], $first * 1440, null, false,
                [Criterion::Deadline, Criterion::LateFinish], null, self::TRIES, self::SECONDS));
        $draft = is_string($made['draft']) ? Draft::query()->where('uid', $made['draft'])->firstOrFail() : null;

        return [$draft ?? throw new NoWay('nothing that may be held back is in its way'), ['share' => null, 'units' => null]];
    }

    /**
     * Worked on with less intensity, for longer; the work stays.
     *
     * @param  list<Behind>  $behind
     * @return array{Draft, array{share: int, units: null}}
     */
    private function lower(string $name, Resource $resource, int $first, int $last, array $behind): array
    {
        $best = null;
        $now = $this->overload($resource->uid, $first, $last, null);
        foreach (self::SHARES as $n => $share) {
            ($this->tick)('comparing', $n, count(self::SHARES));
            $operations = self::lowered($behind, $share);
            if ($operations === []) {
                break;
            }
            $over = $this->overload($resource->uid, $first, $last, DraftPlan::of($operations, [], [], null));
            if ($over < ($best[0] ?? $now)) { // fewer days in the time that is looked at, then after it
                $best = [$over, $share, $operations];
            }
            if ($over === [0, 0]) {
                break;
            }
        }

        return $best === null ? throw new NoWay('nothing behind it could be done with less intensity to any avail')
            : [(new DraftStore($this->reach))->made($name, $best[2]), ['share' => $best[1], 'units' => null]];
    }

    /**
     * @param  list<Behind>  $behind
     * @return list<Operation>
     */
    private static function lowered(array $behind, int $share): array
    {
        $operations = [];
        foreach ($behind as $a) {
            $duration = intdiv($a['duration'] * 100 + $share - 1, $share);
            if ($a['assignments'] === []) {
                continue;
            }
            $operations[] = Operation::update(EntityKind::Activity, $a['uid'], ['duration' => $duration], ['duration' => $a['duration']]);
            foreach ($a['assignments'] as $s) {
                $operations[] = Operation::update(EntityKind::Assignment, $s['uid'],
                    ['intensity' => max(1, (int) round($s['work'] * 100_000 / max(1, $duration - $s['offset'])))],
                    ['intensity' => $s['intensity']]);
            }
        }

        return $operations;
    }

    /**
     * As much of it as is asked for, as long as the overload lasts.
     *
     * @return array{Draft, array{share: null, units: int}}
     */
    private function add(string $name, Resource $resource, int $first, int $last): array
    {
        $load = (new LoadQuery($this->reach))->of(new LoadWish(Period::Day->bounds($first, $last), null, [$resource->uid], false))[0];
        $needed = 0;
        foreach ($load['capacity'] as $n => $there) {
            if ($there > 0 && $load['overloaded'][$n] > 0) {
                $units = $resource->unitsAt(($first + $n) * 1440 + 720);
                $needed = max($needed, (int) ceil(($load['demand'][$n] + $load['others'][$n]) * $units / $there));
            }
        }
        [$begin, $end] = [$first * 1440, ($last + 1) * 1440];
        if ($needed === 0) {
            throw new NoWay('there is none of it at all on those days, so that more would not help');
        }
        // whether or not it is there then
        $before = static fn (int $moment): int => array_reduce($resource->capacity,
            static fn (int $units, CapacityStep $s): int => $s->from <= $moment ? $s->units : $units, $resource->units);
        $steps = [$begin => max($needed, $before($begin)), $end => $before($end)];
        foreach ($resource->capacity as $step) {
            $steps[$step->from] = $step->from >= $begin && $step->from < $end ? max($needed, $step->units) : $step->units;
        }
        ksort($steps);
        $told = static fn (CapacityStep $s): array => ['from' => Instant::format($s->from), 'units' => $s->units];
        $new = array_map(static fn (int $from, int $units): CapacityStep => new CapacityStep($from, $units), array_keys($steps), $steps);

        return [(new DraftStore($this->reach))->made($name, [Operation::update(EntityKind::Resource, $resource->uid,
            ['capacity' => array_map($told, $new)],
            ['capacity' => array_map($told, $resource->capacity)])]), ['share' => null, 'units' => $needed]];
    }

    /**
     * What operations would do: to the overload, and to dates.
     *
     * @param  list<Operation>  $operations
     * @return array{overload: array{int, int}, comparison: array<string, mixed>|null}
     */
    private function does(string $resource, int $first, int $last, array $operations): array
    {
        $draft = $operations === [] ? null : DraftPlan::of($operations, [], [], null);

        return ['overload' => $this->overload($resource, $first, $last, $draft),
            'comparison' => $draft === null ? null : DraftBoard::comparison($draft, $this->reach)];
    }

    /**
     * Overloaded days of the resource in the time that is looked at, and after it.
     *
     * @return array{int, int}
     */
    private function overload(string $resource, int $first, int $last, ?DraftPlan $draft): array
    {
        $wish = new LoadWish([$first, $last + 1, $last + 1 + self::DAYS], null, [$resource], false);
        $load = (new LoadQuery($this->reach, $draft?->after))->of($wish);

        return [$load[0]['overloaded'][0], $load[0]['overloaded'][1]];
    }

    /**
     * What asks for the resource in that time, waits to be started and is the user's to plan; with all work on it that has an intensity.
     *
     * @return list<Behind>
     */
    private function behind(string $resource, int $first, int $last): array
    {
        $branches = array_values(array_filter($this->reach->branches(), fn (int $b): bool => $this->reach->may(Role::Planner, $b)));
        [$from, $to] = [$first * 1440, ($last + 1) * 1440];
        $found = [];
        foreach ($branches === [] ? [] : Rows::all('SELECT a.uid, p.uid, a.duration, o.uid, o.intensity, o.remaining_work, o.`offset`
            FROM assignments s JOIN resources r ON r.id = s.resource_id JOIN activities a ON a.id = s.activity_id
            JOIN projects p ON p.id = s.project_id JOIN activity_dates d ON d.activity_id = a.id
            LEFT JOIN assignments o ON o.activity_id = a.id AND o.intensity IS NOT NULL AND o.remaining_work > 0
            WHERE r.uid IN '.Rows::quoted([$resource])." AND s.remaining_work > 0 AND a.actual_start IS NULL AND a.kind = '"
                .Kind::Task->value."' AND p.kept = '".Kept::Here->value."' AND p.archived = 0 AND d.finish > {$from} AND d.start < {$to}
                AND p.branch_id IN ".Rows::in($branches).' ORDER BY a.uid, o.uid') as $row) {
            /** @var array{string, string, int, string|null, int|null, int|null, int|null} $row */
            [$uid, $project, $duration, $assignment, $intensity, $work, $offset] = $row;
            $found[$uid] ??= ['uid' => $uid, 'project' => $project, 'duration' => $duration, 'assignments' => []];
            if ($assignment !== null) {
                $found[$uid]['assignments'][] = ['uid' => $assignment, 'intensity' => (int) $intensity, 'work' => (int) $work,
                    'offset' => (int) $offset];
            }
        }

        return array_values($found);
    }
}

<?php

declare(strict_types=1);

namespace App\Resources;

use App\Access\Reach;
use App\Database\Rows;
use App\Planning\Ids;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\Axes;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Plan\SpreadWeek;
use Reihe\Core\Resource\Capacity;
use Reihe\Core\Resource\DayTable;
use Reihe\Core\Resource\Demand;
use Reihe\Core\Resource\Load;
use Reihe\Core\Schedule\Schedule;

/**
 * What stored assignments ask of resources, day by day. Projects out of reach, and those that were not asked about, are only summed up:
 * they use the resource too.
 */
final class LoadQuery
{
    /** projects (as `p`) whose work counts */
    public const LIVE = "p.kept IN ('".Kept::Here->value."', '".Kept::Outside->value."') AND p.archived = 0";

    private const NAMED = ['activity', 'code', 'name', 'project', 'start', 'finish', 'totalFloat'];

    /** @var array<int, string> id => uid of calendars */
    private array $calendarUids = [];

    private readonly Axes $axes;

    /** @var array<string, Resource> by uid, those that can be overloaded */
    private readonly array $resources;

    /** @var array<string, true> uids of resources that are there outside of a draft */
    private readonly array $stored;

    private readonly Ids $ids;

    /** @param  Schedule|null  $draft  what a draft makes of the projects it touches, with everything joined to them */
    public function __construct(private readonly Reach $reach, private readonly ?Schedule $draft = null)
    {
        $this->ids = new Ids;
        /** @var array<string, Calendar> $stored */
        $stored = Table::of(EntityKind::Calendar)->load('(0)', $this->ids);
        $calendars = ($draft->plan->calendars ?? []) + $stored;
        $this->axes = new Axes($calendars);
        foreach (array_keys($stored) as $uid) {
            $this->calendarUids[$this->ids->id(EntityKind::Calendar, (string) $uid)] = (string) $uid;
        }
        /** @var array<string, Resource> $resources */
        $resources = Table::of(EntityKind::Resource)->load('(0)', $this->ids);
        $this->stored = array_fill_keys(array_map(strval(...), array_keys($resources)), true);
        $this->resources = array_filter($draft->plan->resources ?? [] ?: $resources, static fn (Resource $r): bool => ! $r->isMaterial());
    }

    /**
     * @return list<array{uid: string, demand: list<int>, others: list<int>, capacity: list<int>, overloaded: list<int>,
     *     work: int}> by period: minutes asked for by what was asked about, by everything else, there are; days that are overloaded;
     *     and minutes of work in all, by resource in the order of their keys
     */
    public function of(LoadWish $wish): array
    {
        $tables = $loads = $others = [];
        foreach ($this->wanted($wish) as $uid => $resource) {
            $axis = $this->axes->of((string) $resource->calendar);
            $table = $tables[(string) $resource->calendar] ??= new DayTable($axis, $wish->first(), $wish->last());
            $loads[$uid] = Load::of(new Capacity($resource, $axis), $table);
            $others[$uid] = [];
        }
        foreach ($this->demands($wish) as [$uid, $isAsked, $demand]) {
            $load = $loads[$uid];
            if ($isAsked) {
                $load->add($demand);
            } else {
                foreach ($demand->days($wish->first(), $wish->last(), $load->table) as $day => $minutes) {
                    $others[$uid][$day] = ($others[$uid][$day] ?? 0) + $minutes;
                }
            }
        }
        $shown = [];
        foreach ($loads as $uid => $load) {
            $over = array_map(static fn (): int => 1, $load->overload($others[$uid]));
            $shown[] = ['uid' => (string) $uid, 'demand' => Load::sums($load->demand, $wish->bounds),
                'others' => Load::sums($others[$uid], $wish->bounds), 'capacity' => Load::sums($load->capacity, $wish->bounds),
                'overloaded' => Load::sums($over, $wish->bounds), 'work' => $load->work];
        }

        return $shown;
    }

    /**
     * What is behind the load of one resource in a time: activities of projects that the user sees, the largest first, and others as
     * sums.
     *
     * @return array{activities: list<array<string, mixed>>, beyond: int}
     */
    public function behind(string $resource, LoadWish $wish): array
    {
        abort_if(! isset($this->resources[$resource]), 404);
        $behind = [];
        $beyond = 0;
        [$from, $to] = [$wish->first() * 1440, ($wish->last() + 1) * 1440];
        foreach ($this->demands($wish, true) as [, , $demand, $row]) {
            $minutes = $demand->between($from, $to);
            if ($minutes === 0) {
                continue;
            }
            if ($row === null) {
                $beyond += $minutes;
            } else {
                $behind[] = $row + ['minutes' => $minutes];
            }
        }
        usort($behind, static fn (array $a, array $b): int => [$b['minutes'], $a['code']] <=> [$a['minutes'], $b['code']]);

        return ['activities' => $behind, 'beyond' => $beyond];
    }

    /** @return array<string, Resource> */
    private function wanted(LoadWish $wish): array
    {
        $wanted = $wish->resources === null ? $this->resources : array_intersect_key($this->resources, array_flip($wish->resources));
        uasort($wanted, static fn (Resource $a, Resource $b): int => strnatcasecmp($a->key, $b->key));

        return $wanted;
    }

    /**
     * @param  bool  $named  with the activity behind each, where the user sees it
     * @return iterable<array{string, bool, Demand, array<string, mixed>|null}> resource, whether it was asked about, what it asks for
     */
    private function demands(LoadWish $wish, bool $named = false): iterable
    {
        $uids = [];
        foreach (array_intersect_key($this->wanted($wish), $this->stored) as $uid => $resource) {
            $uids[$this->ids->id(EntityKind::Resource, (string) $uid)] = (string) $uid;
        }
        $visible = $this->reach->projects();
        $seen = array_fill_keys(array_values($visible), true);
        [$from, $to] = [$wish->first() * 1440, ($wish->last() + 1) * 1440];
        $drafted = $this->draftedProjects();
        [$work, $begin] = $wish->planned ? ['COALESCE(s.actual_work, 0) + COALESCE(s.remaining_work, 0)', 'd.start']
            : ['COALESCE(s.remaining_work, 0)', 'd.remaining_start'];
        $where = $this->draft === null ? "d.finish >= {$from} AND {$begin} < {$to}" // what a draft moves may come from anywhere
            : ($drafted === [] ? '1' : 'p.id NOT IN '.Rows::in(array_values($drafted)));
        $names = $named ? ', a.code, a.name, p.`key`, d.start, d.finish, d.total_float' : '';
        foreach ($uids === [] ? [] : Rows::each("SELECT s.resource_id, p.id, {$work}, {$begin}, d.finish, s.spread, s.weeks, s.`offset`,
                COALESCE(a.calendar_id, p.calendar_id), a.actual_start IS NOT NULL, a.uid{$names}
            FROM assignments s JOIN activities a ON a.id = s.activity_id JOIN projects p ON p.id = s.project_id
            JOIN activity_dates d ON d.activity_id = a.id
            WHERE s.resource_id IN ".Rows::in(array_keys($uids)).' AND '.self::LIVE." AND {$where} AND {$work} > 0") as $row) {
            /** @var array{int, int, int, int, int, string, string, int, int, int, string} $own */
            $own = array_slice($row, 0, 11);
            [$resource, $project, $minutes, $start, $finish, $spread, $weeks, $offset, $calendar, $started, $of] = $own;
            [$start, $finish] = $this->drafted($of, $wish->planned) ?? [$start, $finish];
            $sees = isset($seen[$project]);
            $isAsked = $sees && ($wish->projects === null || isset($wish->projects[$project]));
            $activity = $this->axes->of($this->calendarUids[$calendar])
                ?? throw new \LogicException('what has dates has working time');
            $uid = $uids[$resource];
            if ($offset > 0 && ($started === 0 || $wish->planned)) {
                $start = min($finish, $activity->boundAt($activity->workAt($start) + $offset));
            }
            yield [$uid, $isAsked, new Demand($start, $finish, (int) $minutes, $this->axes->of((string) $this->resources[$uid]->calendar),
                $activity, Spread::from($spread), $spread === 'hand' ? self::weeks($weeks) : []),
                $named && $sees ? $this->datesIn($of) + array_combine(self::NAMED, array_slice($row, 10)) : null];
        }
        yield from $this->inDraft($wish, $named, $visible, $drafted);
    }

    /**
     * What projects at hand in a draft ask for, as it has them.
     *
     * @param  array<string, int>  $visible  uids of projects => id
     * @param  array<string, int>  $stored  likewise, of those that are there outside of it
     * @return iterable<array{string, bool, Demand, array<string, mixed>|null}> see {@see demands()}
     */
    private function inDraft(LoadWish $wish, bool $named, array $visible, array $stored): iterable
    {
        $wanted = $this->wanted($wish);
        $plan = $this->draft->plan ?? new Plan;
        foreach ($plan->assignments as $s) {
            $a = $plan->activities[$s->activity];
            $p = $plan->projects[$a->project];
            $minutes = ($wish->planned ? $s->actualWork ?? 0 : 0) + ($s->remainingWork ?? 0);
            if ($s->resource === null || ! isset($wanted[$s->resource]) || $minutes === 0 || $p->archived
                || ! $p->kept->isLive()) {
                continue;
            }
            [$start, $finish] = $this->drafted($a->uid, $wish->planned) ?? throw new \LogicException('what is at hand is calculated');
            $axis = $this->axes->of($a->calendar ?? $p->calendar) ?? throw new \LogicException('what has dates has working time');
            if ($s->offset > 0 && ($a->actualStart === null || $wish->planned)) {
                $start = min($finish, $axis->boundAt($axis->workAt($start) + $s->offset));
            }
            $sees = isset($visible[$p->uid]) || (! isset($stored[$p->uid]) && $this->reach->branch((string) $p->branch) !== null);
            yield [$s->resource, $sees && ($wish->projects === null || isset($wish->projects[$visible[$p->uid] ?? 0])),
                new Demand($start, $finish, $minutes, $this->axes->of((string) $wanted[$s->resource]->calendar), $axis, $s->spread,
                    $s->weeks),
                $named && $sees ? ['activity' => $a->uid, 'code' => $a->code, 'name' => $a->name, 'project' => $p->key]
                    + $this->datesIn($a->uid) : null];
        }
    }

    /** @return array<string, int> uid => id of stored projects that a draft has at hand */
    private function draftedProjects(): array
    {
        $uids = array_map(strval(...), array_keys($this->draft->plan->projects ?? []));

        /** @var array<string, int> */
        return $uids === [] ? [] : DB::table('projects')->whereIn('uid', $uids)->pluck('id', 'uid')->all();
    }

    /** @return array{int, int}|null when an activity is worked on in the draft; null where the draft does not reach */
    private function drafted(string $activity, bool $planned): ?array
    {
        $i = $this->draft->network->node[$activity] ?? null;
        $dates = $this->draft?->dates;

        return $i === null || $dates === null ? null : [($planned ? $dates->start : $dates->begin)[$i], $dates->finish[$i]];
    }

    /** @return array<string, int|null> dates and float of an activity as a draft has them; nothing where it does not reach */
    private function datesIn(string $activity): array
    {
        $dates = isset($this->draft->network->node[$activity]) ? $this->draft->activity($activity) : null;

        return $dates === null ? [] : ['start' => $dates->earlyStart, 'finish' => $dates->earlyFinish, 'totalFloat' => $dates->totalFloat];
    }

    /** @return list<SpreadWeek> */
    public static function weeks(string $json): array
    {
        /** @var list<array{week: int, work: int}> $weeks */
        $weeks = json_decode($json, true);

        return array_map(static fn (array $w): SpreadWeek => new SpreadWeek($w['week'], $w['work']), $weeks);
    }
}

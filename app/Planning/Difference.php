<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\Dates;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Schedule;

/** Results of a schedule that differ from those that are stored: places in its lists, of which rows are made when they are written. */
final readonly class Difference
{
    private const CHUNK = 10_000;

    /**
     * @param  list<int>  $activities  nodes
     * @param  list<int>|null  $columns  which of their columns differ; null when some of them are new
     * @param  list<int>  $links  edges
     * @param  array<int, list<int|string|null>>  $handovers  edge => results
     * @param  list<int>  $wbs
     * @param  list<int>  $projects
     * @param  array<string, array<string, list<int|null>>>  $rolledUp  `wbs` and `project` => uid => results, all of them
     */
    private function __construct(
        private Schedule $schedule,
        private array $activities,
        private ?array $columns,
        private array $links,
        private array $handovers,
        private array $wbs,
        private array $projects,
        public array $rolledUp,
    ) {
    }

    /**
     * What differs from a part as it was; everything, for objects that are new in it.
     *
     * @param  list<string>  $touched  uids of projects whose roll-ups may differ although no date of theirs does
     */
    public static function between(?Part $before, Schedule $after, array $touched = []): self
    {
        $n = $after->network;
        $d = $after->dates;
        $was = $before === null ? null : [$before->network->uid, self::columns($before->network, $before->dates)];
        [$activities, $columns] = self::changed($was, $n->uid, self::columns($n, $d));
        $activities = array_values(array_filter($activities, static fn (int $i): bool => $n->project[$i] >= 0));
        $changed = array_fill_keys($touched, true);
        foreach ($activities as $i) {
            $changed[$n->projectUid[$n->project[$i]]] = true;
        }
        $rolledUp = Results::rolledUp($before, $after, $changed);
        $were = $before === null ? [] : self::handoversOf($before->network, $before->dates);
        $handovers = [];
        foreach (self::handoversOf($n, $d) as $uid => [$k, $values]) {
            if (($were[$uid][1] ?? null) !== $values) {
                $handovers[$k] = $values;
            }
        }

        $was = $before === null ? null : [$before->network->linkUid, [$before->dates->linkFloat, $before->dates->driving]];
        [$links] = self::changed($was, $n->linkUid, [$d->linkFloat, $d->driving]);
        $wbs = self::other($before->rolledUp['wbs'] ?? [], $rolledUp['wbs'], $n->wbsUid);
        $projects = self::other($before->rolledUp['project'] ?? [], $rolledUp['project'], $n->projectUid);

        return new self($after, $activities, $columns, $links, $handovers, $wbs, $projects, $rolledUp);
    }

    /**
     * What differs from the rows as they are stored.
     *
     * @param  array<string, array<string, list<int|string|null>>>  $stored  as from {@see Results::load()}
     */
    public static function from(array $stored, Schedule $schedule): self
    {
        $all = self::between(null, $schedule);
        $n = $schedule->network;
        $activities = $links = [];
        foreach ($all->activities as $i) {
            if (($stored['activity'][$n->uid[$i]] ?? null) !== $all->activity($i)) {
                $activities[] = $i;
            }
        }
        foreach ($all->links as $k) {
            if (($stored['link'][$n->linkUid[$k]] ?? null) !== $all->link($k)) {
                $links[] = $k;
            }
        }

        $isOther = static fn (array $values, int $k): bool => ($stored['handover'][$n->linkUid[$k]] ?? null) !== $values;
        $wbs = self::other($stored['wbs'] ?? [], $all->rolledUp['wbs'], $n->wbsUid);
        $projects = self::other($stored['project'] ?? [], $all->rolledUp['project'], $n->projectUid);

        return new self($schedule, $activities, null, $links, array_filter($all->handovers, $isOther, ARRAY_FILTER_USE_BOTH), $wbs,
            $projects, $all->rolledUp);
    }

    public function count(): int
    {
        return count($this->activities) + count($this->links) + count($this->handovers) + count($this->wbs) + count($this->projects);
    }

    /** @return array<string, true> projects with results that differ, by uid; a link shows at both its ends */
    public function touchedProjects(): array
    {
        $n = $this->schedule->network;
        $numbers = array_fill_keys($this->projects, true);
        foreach ($this->activities as $i) {
            $numbers[$n->project[$i]] = true;
        }
        foreach ($this->wbs as $w) {
            $numbers[$n->wbsProject[$w]] = true;
        }
        foreach ([...$this->links, ...array_keys($this->handovers)] as $k) {
            $numbers[$n->project[$n->to[$k]]] = $numbers[$n->project[$n->from[$k]]] = true;
        }
        $projects = [];
        foreach (array_keys($numbers) as $p) {
            if ($p >= 0) {
                $projects[$n->projectUid[$p]] = true;
            }
        }

        return $projects;
    }

    /**
     * @param  array<string, int>  $revisions  project uid => revision of the rows written
     * @param  \Closure(int): void|null  $written  hears how many rows were written
     */
    public function write(Ids $ids, array $revisions, ?\Closure $written = null): void
    {
        $n = $this->schedule->network;
        $of = static fn (int $p): int => $revisions[$n->projectUid[$p] ?? ''] ?? 0;
        $both = static fn (int $k): array => [$of($n->project[$n->to[$k]]), $of($n->project[$n->from[$k]])];
        $some = $this->columns !== null && count($this->activities) > Rows::CHUNK ? $this->columns
            : null; // many rows, often in floats only
        $this->store('activity', $ids, $this->activities, $n->uid,
            fn (int $i): array => [...self::some($this->activity($i), $some), $of($n->project[$i])], $written, $some);
        $this->store('link', $ids, $this->links, $n->linkUid, fn (int $k): array => [...$this->link($k), ...$both($k)], $written);
        $this->store('handover', $ids, array_keys($this->handovers), $n->linkUid,
            fn (int $k): array => [...$this->handovers[$k], $both($k)[0]], $written);
        $this->store('wbs', $ids, $this->wbs, $n->wbsUid,
            fn (int $w): array => [...$this->rolledUp['wbs'][$n->wbsUid[$w]], $of($n->wbsProject[$w])], $written);
        $this->store('project', $ids, $this->projects, $n->projectUid,
            fn (int $p): array => [...$this->rolledUp['project'][$n->projectUid[$p]], $of($p)], $written);
    }

    /**
     * @param  list<int>  $places
     * @param  array<int, string>  $uids
     * @param  callable(int): list<int|string|null>  $values  results and revisions
     * @param  list<int>|null  $some  places of the columns to write, of rows that are there; null for all, and new rows
     */
    private function store(string $kind, Ids $ids, array $places, array $uids, callable $values, ?\Closure $written,
        ?array $some = null): void
    {
        $of = EntityKind::from($kind === 'handover' ? 'link' : $kind);
        [$table, $key] = Results::TABLES[$kind];
        $columns = [$key, ...self::some(Results::COLUMNS[$kind], $some), 'revision', ...($kind === 'link' ? ['giver_revision'] : [])];
        foreach (array_chunk($places, self::CHUNK) as $chunk) {
            $ids->find($of, array_map(static fn (int $i): string => $uids[$i], $chunk));
            $rows = array_map(static fn (int $i): array => [$ids->id($of, $uids[$i]), ...$values($i)], $chunk);
            $some === null ? Rows::upsert($table, $columns, $rows) : Rows::update($table, $columns, $rows);
            $written === null ?: $written(count($chunk));
        }
    }

    /**
     * @template T
     *
     * @param  list<T>  $values
     * @param  list<int>|null  $places
     * @return list<T>
     */
    private static function some(array $values, ?array $places): array
    {
        return $places === null ? $values : array_map(static fn (int $place): mixed => $values[$place], $places);
    }

    /** @return list<int|null> */
    private function activity(int $i): array
    {
        $d = $this->schedule->dates;

        return [$d->start[$i], $d->finish[$i], $d->lateStart[$i], $d->lateFinish[$i], $d->totalFloat[$i], $d->freeFloat[$i],
            (int) $d->critical[$i], (int) $d->nearCritical[$i], $this->schedule->network->percent[$i], $d->begin[$i]];
    }

    /** @return list<int|null> */
    private function link(int $k): array
    {
        return [$this->schedule->dates->linkFloat[$k], (int) $this->schedule->dates->driving[$k]];
    }

    /** @return list<array<int, int|bool|null>> */
    private static function columns(Network $n, Dates $d): array
    {
        return [$d->start, $d->finish, $d->lateStart, $d->lateFinish, $d->totalFloat, $d->freeFloat,
            $d->critical, $d->nearCritical, $n->percent, $d->begin];
    }

    /** @return array<string, array{int, list<int|string|null>}> link uid => edge, results */
    private static function handoversOf(Network $n, Dates $d): array
    {
        $found = [];
        foreach ($n->from as $k => $i) {
            if ($n->project[$i] !== $n->project[$n->to[$k]]) {
                $h = Handover::of($n, $d, $k);
                $found[$n->linkUid[$k]] = [$k, [$h->forecast, $h->margin, $h->state->value]];
            }
        }

        return $found;
    }

    /**
     * @param  array<string, list<int|string|null>>  $was
     * @param  array<string, list<int|string|null>>  $is
     * @param  array<int, string>  $uids
     * @return list<int> places of what is not as it was
     */
    private static function other(array $was, array $is, array $uids): array
    {
        $other = [];
        foreach ($uids as $place => $uid) {
            if (($was[$uid] ?? null) !== $is[$uid]) {
                $other[] = $place;
            }
        }

        return $other;
    }

    /**
     * Places where columns differ. Most edits leave most columns as they are, so whole ones are compared first.
     *
     * @param  array{array<int, string>, list<array<int, int|bool|null>>}|null  $before  uids and columns
     * @param  array<int, string>  $uids
     * @param  list<array<int, int|bool|null>>  $columns
     * @return array{list<int>, list<int>|null} places, and which columns differ; null when some places are new
     */
    private static function changed(?array $before, array $uids, array $columns): array
    {
        if ($before === null) {
            return [array_keys($uids), null];
        }
        $changed = $other = [];
        if ($before[0] === $uids) {
            foreach ($columns as $c => $column) {
                $was = $before[1][$c];
                if ($column !== $was) {
                    $other[] = $c;
                    foreach ($column as $i => $value) {
                        if ($value !== $was[$i]) {
                            $changed[$i] = true;
                        }
                    }
                }
            }

            return [array_keys($changed), $other];
        }
        $place = array_flip($before[0]);
        foreach ($uids as $i => $uid) {
            $j = $place[$uid] ?? null;
            foreach ($columns as $c => $column) {
                if ($j === null || $column[$i] !== $before[1][$c][$j]) {
                    $changed[$i] = true;

                    break;
                }
            }
        }

        return [array_keys($changed), null];
    }
}

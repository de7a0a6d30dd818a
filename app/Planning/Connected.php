<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Enterprise;
use App\Database\Rows;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;

/** Some projects as objects, in the calculated network of everything joined to them; as it was at one moment. */
final readonly class Connected
{
    /**
     * @param  Plan  $plan  the projects asked for; the far ends of their handovers as stubs
     * @param  Schedule  $schedule  of everything joined to them, with that plan
     * @param  array<string, int>  $revisions  project uid => revision, of everything joined
     * @param  int  $enterprise  revision of what all projects share
     * @param  bool  $whole  nothing joined to them is missing in the plan
     */
    private function __construct(public Plan $plan, public Ids $ids, public Part $part, public array $revisions, public int $enterprise,
        public Schedule $schedule, public bool $whole)
    {
    }

    /** @param  list<int>  $projects ids */
    public static function with(array $projects): self
    {
        return self::now(static fn (): array => $projects, false);
    }

    /**
     * The calculated network alone, without objects: for answers that need dates, links and uids only.
     *
     * @param  list<int>  $projects ids
     */
    public static function network(array $projects): Schedule
    {
        return self::now(static fn (): array => $projects, null)->schedule;
    }

    /**
     * What operations touch. Calendars may move all that is joined, so then nothing is left out.
     *
     * @param  list<Operation>  $operations
     * @param  list<int>  $more  ids of projects that are wanted besides
     */
    public static function touchedBy(array $operations, array $more = []): self
    {
        return self::now(static fn (): array => array_values(array_unique([...TouchedProjects::of($operations), ...$more])),
            Operation::shapeDates($operations));
    }

    /**
     * @param  callable(): list<int>  $projects
     * @param  bool|null  $whole  all that is joined is wanted as objects, or nothing (null)
     */
    private static function now(callable $projects, ?bool $whole): self
    {
        $read = static fn (bool $calculate): ?self => DB::transaction(static fn (): ?self => self::read($projects(), $whole, $calculate));
        $kept = $read(false);
        if ($kept !== null) {
            return $kept;
        }
        $turn = Turn::take(PlanStore::connected($projects()));
        try {
            return $read(true) ?? throw new \LogicException('calculated');
        } finally {
            $turn->end();
        }
    }

    /**
     * @param  list<int>  $projects
     * @param  bool|null  $whole  see {@see now()}
     * @param  bool  $calculate  when the part is not kept; else the answer is null then
     */
    private static function read(array $projects, ?bool $whole, bool $calculate): ?self
    {
        $all = PlanStore::connected($projects);
        $ids = $revisions = $inputs = [];
        foreach (Rows::all('SELECT uid, id, revision, input_revision FROM projects WHERE id IN '.Rows::in($all).' ORDER BY id') as [$uid,
            $id, $revision, $input]) {
            $ids[(string) $uid] = (int) $id;
            $revisions[(string) $uid] = (int) $revision;
            $inputs[(string) $uid] = (int) $input;
        }
        $part = self::part($ids, $inputs, Enterprise::inputRevision(), $calculate);
        if ($part === null) {
            return null;
        }
        [$plan, $rows] = $whole === null ? [new Plan, new Ids] : PlanStore::load($whole ? $all : $projects);

        return new self($plan, $rows, $part, $revisions, Enterprise::revision(), Schedule::kept($plan, $part->network, $part->dates),
            $whole === true);
    }

    /**
     * The calculated part at these revisions: as kept, or brought up to date by the projects that were changed since, or
     * calculated from nothing.
     *
     * @param  array<string, int>  $ids
     * @param  array<string, int>  $inputs
     */
    private static function part(array $ids, array $inputs, int $enterprise, bool $calculate): ?Part
    {
        $kept = KeptParts::latest($ids, $inputs, $enterprise);
        if ($kept !== null && ($kept->enterprise !== $enterprise
            || count(array_intersect_key($kept->inputs, $inputs)) * 2 < count($inputs))) {
            $kept = null;
        }
        // a project deleted and made again may come to the same revision, never to the same row
        $changed = $kept === null ? array_keys($inputs)
            : array_keys(array_filter($inputs, static fn (int $input, string $uid): bool => ($kept->inputs[$uid] ?? null) !== $input
            || $kept->ids[$uid] !== $ids[$uid], ARRAY_FILTER_USE_BOTH));
        $gone = $kept === null ? [] : array_keys(array_diff_key($kept->inputs, $inputs));
        if ($kept !== null && $changed === [] && $gone === []) {
            return $kept;
        }
        if (! $calculate) {
            return null;
        }
        $touched = [...$changed, ...$gone];
        $plan = PlanStore::load(array_map(static fn (string $uid): int => $ids[$uid], $changed))[0];
        $schedule = $kept === null ? Schedule::of($plan)
            : Schedule::kept(new Plan, $kept->network, $kept->dates)->after($plan, $touched, new ActivityNames($plan));
        $part = Part::of($ids, $inputs, $enterprise, $schedule, Difference::between($kept, $schedule, $touched)->rolledUp);
        KeptParts::keep($part, $kept);

        return $part;
    }
}

<?php

declare(strict_types=1);

namespace App\Planning;

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
     * @param  bool  $whole  nothing joined to them is missing in the plan
     */
    private function __construct(public Plan $plan, public Ids $ids, public Part $part, public Schedule $schedule, public bool $whole)
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
     * What operations touch. What the enterprise has may touch all that is joined, so then nothing is left out.
     *
     * @param  list<Operation>  $operations
     */
    public static function touchedBy(array $operations): self
    {
        return self::now(static fn (): array => TouchedProjects::of($operations), Operation::touchEnterprise($operations));
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
        $ids = $revisions = [];
        foreach (Rows::all('SELECT uid, id, revision FROM projects WHERE id IN '.Rows::in($all).' ORDER BY id') as [$uid, $id, $revision]) {
            $ids[(string) $uid] = (int) $id;
            $revisions[(string) $uid] = (int) $revision;
        }
        $enterprise = Enterprise::revision();
        $part = KeptParts::find($ids, $revisions, $enterprise);
        if ($part === null) {
            if (! $calculate) {
                return null;
            }
            $schedule = Schedule::of(PlanStore::load($all)[0]);
            $part = Part::of($ids, $revisions, $enterprise, $schedule, Results::rolledUp(null, $schedule));
            KeptParts::keep($part);
        }
        [$plan, $rows] = $whole === null ? [new Plan, new Ids] : PlanStore::load($whole ? $all : $projects);

        return new self($plan, $rows, $part, Schedule::kept($plan, $part->network, $part->dates), $whole === true);
    }
}

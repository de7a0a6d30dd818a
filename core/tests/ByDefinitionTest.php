<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Schedule\Schedule;

/** The engine gives the dates and floats that the rules define, to the minute, on random plans with everything in them. */
final class ByDefinitionTest extends TestCase
{
    private const PLANS = 120;

    public function test_dates_and_floats_are_those_of_the_rules(): void
    {
        $plans = $early = $late = 0;
        for ($seed = 1; $plans < self::PLANS; $seed++) {
            $plan = RandomPlan::make($seed + 40_000, 3, 10, 1.8, typed: true);
            // what is moved as late as possible is defined by free float, which FloatsAreExactTest tries
            $free = [];
            foreach ($plan->activities as $uid => $a) {
                if ($a->constraint(ConstraintKind::AsLateAsPossible) !== null) {
                    $free[] = Operation::update(EntityKind::Activity, $uid, ['constraints' => []]);
                }
            }
            $plan = ChangeSet::apply($plan, $free)->plan;
            try {
                $schedule = Schedule::of($plan);
            } catch (InvalidPlan) {
                continue;
            }
            $plans++;
            $rules = new ByDefinition($plan);
            foreach ($plan->activities as $uid => $a) {
                $is = $schedule->activity($uid);
                self::assertSame($rules->early($uid), [$is->earlyStart, $is->earlyFinish], "plan {$seed}, {$uid}, early");
                $early++;
                if ($a->kind === Kind::Hammock) {
                    self::assertSame([null, null, null], [$is->lateStart, $is->lateFinish, $is->totalFloat]);
                } elseif (! $a->isFinished()) {
                    self::assertSame($rules->late($uid), [$is->lateStart, $is->lateFinish, $is->totalFloat], "plan {$seed}, {$uid}, late");
                    $late++;
                }
            }
        }
        self::assertGreaterThan(3000, $early);
        self::assertGreaterThan(2600, $late);
    }
}

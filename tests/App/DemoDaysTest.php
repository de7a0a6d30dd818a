<?php

declare(strict_types=1);

namespace Tests\App;

use App\Demo\Varnsund;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * The demo can be loaded on any day: whatever day it is dated around, it is sound and holds what the browser tests take for
 * granted. Two years with a leap day, two changes of year, every weekend and holiday.
 */
final class DemoDaysTest extends TestCase
{
    /** edited in browser tests as work that has not begun */
    private const AHEAD = ['CREW-RO-0020', 'CREW-VE-0010', 'GANN-HU-0010', 'GRID-CA-0050', 'GRID-CA-0060', 'GRID-ST-0030', 'GRID-ST-0040',
        'GRID-ST-0050', 'GRID-ST-0060',
        'LYNG-CI-0010', 'OSTV-CI-0040', 'OSTV-CM-0010', 'OSTV-CM-0040', 'OSTV-CM-0050', 'OSTV-TO-0030', 'OSTV-TO-0050', 'TERN-TR-0020',
        'TERN-TR-0040'];

    private const BEGUN = ['GRID-PE-0010', 'TERN-HU-0040', 'TERN-EL-0030'];

    public function test_every_day_of_two_years(): void
    {
        $days = 0;
        for ($day = Instant::parse('2027-03-01'); $day < Instant::parse('2029-03-01'); $day += Instant::DAY) {
            $days++;
            $date = Instant::format($day);
            $status = Varnsund::statusOn($day);
            $weekday = (int) gmdate('N', 946_684_800 + $day * 60);
            self::assertSame($day - max(0, $weekday - 5) * Instant::DAY + 720, $status, $date);
            if ($weekday > 5) {
                continue; // the plan of the Friday before, tried already
            }
            $plan = Varnsund::plan($status)->plan;
            $codes = [];
            foreach ($plan->activities as $a) {
                $codes[$a->code] = $a;
            }
            self::assertCount(6, $plan->projects, $date);
            self::assertSame([], array_filter(self::AHEAD, static fn (string $code): bool => $codes[$code]->isStarted()), $date);
            self::assertSame([], array_filter(self::BEGUN, static fn (string $code): bool => ! $codes[$code]->isStarted()), $date);
            self::assertNull($codes['CREW-RO-0020']->constraints[0] ?? null, $date);
            if ($days % 23 === 1) {
                $this->assertHandoversHurt($plan, $date);
            }
        }
        self::assertSame(731, $days);
    }

    private function assertHandoversHurt(\Reihe\Core\Plan\Plan $plan, string $date): void
    {
        $schedule = Schedule::of($plan);
        $states = [];
        for ($k = 0; $k < $schedule->network->edges; $k++) {
            if (Handover::isOne($schedule->network, $k)) {
                $states[] = Handover::of($schedule->network, $schedule->dates, $k)->state->value;
            }
        }
        self::assertCount(8, $states, $date);
        self::assertContains('at-risk', $states, $date);
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\CalendarException;
use Reihe\Core\Calendar\Period;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * Exact agreement with independent programs: Bellman-Ford of networkx on random networks of one calendar (agreement.py), and
 * the business days of NumPy on random calendars (workdays.py).
 */
final class AgreementTest extends TestCase
{
    private const NETWORKS = 200;

    public function test_early_and_late_dates_equal_those_of_a_graph_library(): void
    {
        self::needs('networkx');
        $schedules = $networks = [];
        for ($seed = 1; $seed <= self::NETWORKS; $seed++) {
            $schedule = Schedule::of(RandomPlan::make($seed, 1 + $seed % 4, 5 + $seed % 17, 1.8, oneCalendar: true, milestones: false));
            $node = $schedule->network->node;
            $schedules[] = $schedule;
            $networks[] = [
                'duration' => $schedule->network->work, 'project' => $schedule->network->project, 'floor' => $schedule->network->floor,
                'links' => array_values(array_map(static fn ($l): array => [$node[$l->from], $node[$l->to], $l->type->value, $l->lag],
                    $schedule->plan->links)),
            ];
        }
        /** @var list<array{early: list<int>, late: list<int>}> $answers */
        $answers = $this->ask('agreement.py', $networks);
        $compared = 0;
        foreach ($schedules as $i => $schedule) {
            foreach ($schedule->network->node as $uid => $n) {
                $axis = $schedule->axis($uid);
                $a = $schedule->activity($uid);
                self::assertSame($answers[$i]['early'][$n], $axis->workAt($a->earlyStart), "network {$i}, {$uid}, early");
                self::assertSame($answers[$i]['late'][$n], $axis->workAt((int) $a->lateStart), "network {$i}, {$uid}, late");
                $compared++;
            }
        }
        self::assertGreaterThan(4000, $compared);
    }

    public function test_working_days_equal_those_of_numpy(): void
    {
        self::needs('numpy');
        $random = new Randomizer(new Mt19937(20260302));
        $questions = $expected = [];
        for ($c = 0; $c < 40; $c++) {
            $weekdays = $random->pickArrayKeys(array_fill(1, 7, true), $random->getInt(1, 7));
            $holidays = $random->pickArrayKeys(array_flip(range(0, 3650)), 60);
            $date = static fn (int $day): string => gmdate('Y-m-d', 1_735_689_600 + $day * 86_400); // from 2025-01-01
            $axis = new WorkAxis(new Calendar('c', 'C', 'C', array_fill_keys($weekdays, Period::parseList('08:00-12:00 13:00-17:00')),
                array_map(static fn (int $d): CalendarException => new CalendarException($date($d), []), $holidays)));
            for ($q = 0; $q < 50; $q++) {
                [$from, $to, $days] = [$random->getInt(0, 3000), $random->getInt(0, 3000), $random->getInt(-300, 300)];
                $questions[] = ['mask' => implode('',
                    array_map(static fn (int $w): string => in_array($w, $weekdays, true) ? '1' : '0', range(1, 7))),
                    'holidays' => array_map($date, $holidays), 'from' => $date(min($from, $to)), 'to' => $date(max($from, $to)),
                    'days' => $days];
                $at = Instant::parse($date(min($from, $to)));
                $expected[] = [intdiv($axis->between($at, Instant::parse($date(max($from, $to)))), 480),
                    substr(Instant::format($axis->startAt($axis->workAt($at) + $days * 480)), 0, 10)];
            }
        }
        self::assertSame($this->ask('workdays.py', $questions), $expected);
    }

    private static function needs(string $library): void
    {
        exec("/usr/bin/python3 -c 'import {$library}' 2>&1", $output, $missing);
        if ($missing !== 0) {
            self::markTestSkipped("LOUDLY: python3-{$library} is not installed, so nothing was compared. bin/test installs it as root.");
        }
    }

    /**
     * @param  list<array<string, mixed>>  $questions
     * @return list<mixed>
     */
    private function ask(string $script, array $questions): array
    {
        $process = proc_open(['/usr/bin/python3', __DIR__.'/'.$script], [['pipe', 'r'], ['pipe', 'w'], STDERR], $pipes);
        self::assertNotFalse($process);
        fwrite($pipes[0], json_encode($questions, JSON_THROW_ON_ERROR));
        fclose($pipes[0]);
        $answer = json_decode((string) stream_get_contents($pipes[1]), true, flags: JSON_THROW_ON_ERROR);
        self::assertSame(0, proc_close($process));
        self::assertIsList($answer);

        return $answer;
    }
}

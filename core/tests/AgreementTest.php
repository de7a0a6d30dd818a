<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Schedule\Schedule;

/** Exact agreement with an independent program (agreement.py, Bellman-Ford of networkx) on random networks of one calendar. */
final class AgreementTest extends TestCase
{
    private const NETWORKS = 200;

    public function test_early_and_late_dates_equal_those_of_a_graph_library(): void
    {
        exec('/usr/bin/python3 -c "import networkx" 2>&1', $output, $missing);
        if ($missing !== 0) {
            self::markTestSkipped('LOUDLY: python3-networkx is not installed, so nothing was compared. bin/test installs it as root.');
        }
        $schedules = $networks = [];
        for ($seed = 1; $seed <= self::NETWORKS; $seed++) {
            $schedule = Schedule::of(RandomPlan::make($seed, 1 + $seed % 4, 5 + $seed % 17, 1.8, oneCalendar: true, milestones: false));
            $node = $schedule->network->node;
            $schedules[] = $schedule;
            $networks[] = [
                'duration' => $schedule->network->work, 'project' => $schedule->network->project, 'floor' => $schedule->network->floor,
                'links' => array_values(array_map(static fn ($l): array => [$node[$l->from], $node[$l->to], $l->type->value, $l->lag], $schedule->plan->links)),
            ];
        }
        $answers = $this->ask($networks);
        $compared = 0;
        foreach ($schedules as $i => $schedule) {
            foreach (array_keys($schedule->plan->activities) as $n => $uid) {
                $axis = $schedule->axis($uid);
                $a = $schedule->activity($uid);
                self::assertSame($answers[$i]['early'][$n], $axis->workAt($a->earlyStart), "network {$i}, {$uid}, early");
                self::assertSame($answers[$i]['late'][$n], $axis->workAt((int) $a->lateStart), "network {$i}, {$uid}, late");
                $compared++;
            }
        }
        self::assertGreaterThan(4000, $compared);
    }

    /**
     * @param  list<array<string, mixed>>  $networks
     * @return list<array{early: list<int>, late: list<int>}>
     */
    private function ask(array $networks): array
    {
        $process = proc_open(['/usr/bin/python3', __DIR__.'/agreement.py'], [['pipe', 'r'], ['pipe', 'w'], STDERR], $pipes);
        self::assertNotFalse($process);
        fwrite($pipes[0], json_encode($networks, JSON_THROW_ON_ERROR));
        fclose($pipes[0]);
        $answer = stream_get_contents($pipes[1]);
        self::assertSame(0, proc_close($process));

        return json_decode((string) $answer, true, flags: JSON_THROW_ON_ERROR);
    }
}

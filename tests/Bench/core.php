<?php

declare(strict_types=1);

use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Health\Examination;
use Reihe\Core\Health\Grouped;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\Compiler;
use Reihe\Core\Schedule\FloatPaths;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Schedule\Trace;
use Reihe\Core\Tests\RandomPlan;

require dirname(__DIR__, 2).'/vendor/autoload.php';

/**
 * Core figures: CPU time of forward + backward pass, floats, dates and criticality on a compiled network, best of
 * several runs; memory of the compiled network and its results beside the plan. For 10 000 activities also one edit
 * (change set, check, compilation with axes at hand, passes), a trace and ten float paths from the middle of the network,
 * and the health of all projects. `--write FILE` also writes the largest comparable network for the same calculation in
 * a general graph library.
 */
$cpu = static function (): float {
    $u = getrusage();

    return $u['ru_utime.tv_sec'] * 1e3 + $u['ru_utime.tv_usec'] / 1e3 + $u['ru_stime.tv_sec'] * 1e3 + $u['ru_stime.tv_usec'] / 1e3;
};
$result = $networks = $plans = [];
foreach ([[1_000, 5], [10_000, 20], [100_000, 100]] as [$activities, $projects]) {
    $plans[$activities] = RandomPlan::make(20260327, $projects, intdiv($activities, $projects));
    gc_collect_cycles();
    $before = memory_get_usage();
    memory_reset_peak_usage();
    $t = $cpu();
    $networks[$activities] = Compiler::compile($plans[$activities]);
    $compile = $cpu() - $t;
    Schedule::calculate($networks[$activities], $plans[$activities]);
    $result[$activities] = ['activities' => $activities, 'links' => count($plans[$activities]->links), 'compile_ms' => round($compile, 1),
        'passes_ms' => INF, 'peak_mb' => round((memory_get_peak_usage() - $before) / 1e6, 1)];
}
// in turns, so that what else the machine does falls on all of them alike
for ($run = 0; $run < 8; $run++) {
    foreach ($networks as $activities => $network) {
        for ($again = 0; $again < ($activities > 50_000 ? 1 : 2); $again++) {
            $t = $cpu();
            Schedule::calculate($network, $plans[$activities]);
            $result[$activities]['passes_ms'] = min($result[$activities]['passes_ms'], round($cpu() - $t, 1));
        }
    }
}
foreach ($networks as $activities => $network) {
    $plan = $plans[$activities];
    if ($activities === 10_000) {
        $schedule = Schedule::of($plan);
        $middle = $network->uid[$network->order[intdiv($network->nodes, 2)]];
        $axes = array_map(static fn (int $axis): \Reihe\Core\Calendar\WorkAxis => $network->axes[$axis], $network->axisOf);
        $rows = [
            'edit_ms' => static fn (): Schedule => Schedule::of(ChangeSet::apply($plan,
                [Operation::update(EntityKind::Activity, $middle, ['name' => uniqid(), 'deadline' => null])])->plan, $axes),
            'trace_ms' => static fn (): Trace => Trace::of($schedule, $middle),
            'paths_ms' => static fn (): array => FloatPaths::into($schedule, $middle),
            'health_ms' => static function () use ($schedule): void {
                $grouped = new Grouped($schedule);
                foreach (array_keys($schedule->plan->projects) as $uid) {
                    Examination::of($schedule, $uid, grouped: $grouped);
                }
            },
        ];
        foreach ($rows as $name => $work) {
            $best = INF;
            for ($run = 0; $run < 3; $run++) {
                $t = $cpu();
                $work();
                $best = min($best, $cpu() - $t);
            }
            $result[$activities][$name] = round($best, 1);
        }
    }
    if ($activities === 10_000 && ($at = array_search('--write', $argv, true)) !== false) {
        $links = [];
        foreach ($plan->links as $link) {
            $links[] = [$network->node[$link->from], $network->node[$link->to],
                ['FS' => 0, 'SS' => 1, 'FF' => 2, 'SF' => 3][$link->type->value], $link->lag];
        }
        file_put_contents($argv[$at + 1], json_encode(['durations' => $network->work, 'links' => $links], JSON_THROW_ON_ERROR));
    }
}
$result[100_000]['growth_from_10k'] = round($result[100_000]['passes_ms'] / $result[10_000]['passes_ms'], 1);
echo json_encode(array_values($result), JSON_THROW_ON_ERROR), "\n";

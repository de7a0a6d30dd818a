<?php

declare(strict_types=1);

/*
 * Levelling: job shops against their proven optima, and plans of 2 000 and 20 000 activities to their first plan that fits:
 * tests/Bench/levelling.php [seconds for each job shop] [directory of the instances]
 */

use Reihe\Core\Calendar\Axes;
use Reihe\Core\Levelling\Levelled;
use Reihe\Core\Levelling\Wish;
use Reihe\Core\Schedule\Compiler;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\Levelling\JobShop;
use Reihe\Core\Tests\Levelling\Scarce;

require dirname(__DIR__, 2).'/vendor/autoload.php';

$seconds = (float) ($argv[1] ?? 2);
$directory = $argv[2] ?? dirname(__DIR__, 2).'/core/tests/Levelling/jobshop';
$gaps = [];
foreach (JobShop::OPTIMA as $name => $optimum) {
    if (! is_file("{$directory}/{$name}.txt")) {
        continue;
    }
    $plan = JobShop::plan((string) file_get_contents("{$directory}/{$name}.txt"));
    $began = microtime(true);
    $levelled = Scarce::level($plan, new Wish(['shop' => true], tries: PHP_INT_MAX),
        static fn (): bool => microtime(true) - $began < $seconds);
    $end = (int) Schedule::of(Scarce::delayed($plan, $levelled->delays))->dates->ownEnd[0] - 14_000_000;
    $gaps[] = $gap = ($end / $optimum - 1) * 100;
    printf("  %-6s optimum %5d  found %5d  gap %5.2f %%  %6d tries\n", $name, $optimum, $end, $gap, $levelled->tries);
}
printf("  mean gap %.2f %% after %g s each\n", array_sum($gaps) / count($gaps), $seconds);
foreach ([[2_000, 60, 20], [20_000, 300, 60]] as [$activities, $resources, $projects]) {
    $plan = Scarce::plan(7, $resources, $projects, intdiv($activities, $projects), typed: false);
    $network = Compiler::compile($plan);
    $wish = new Wish(array_fill_keys(array_map(strval(...), array_keys($plan->projects)), true), tries: 20);
    $began = microtime(true);
    $first = null;
    $levelled = Levelled::of($network, $plan, $plan->assignments, $plan->resources, new Axes($plan->calendars), $wish,
        static function () use (&$first, $began): bool {
            $first ??= microtime(true) - $began;

            return microtime(true) - $began < 20;
        });
    printf("  %6d activities, %3d resources: first plan %.2f s, %d plans in %.1f s, %d wait, %d do not fit\n", $activities, $resources,
        (float) $first, $levelled->tries, microtime(true) - $began, count($levelled->delays), count($levelled->unfit));
}

<?php

declare(strict_types=1);

/*
 * The load of many resources over two years by weeks, worked out from assignments in memory: tests/Bench/load.php [resources] [assignments]
 */

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Resource\Capacity;
use Reihe\Core\Resource\DayTable;
use Reihe\Core\Resource\Demand;
use Reihe\Core\Resource\Load;
use Reihe\Core\Resource\Period;

require dirname(__DIR__, 2).'/vendor/autoload.php';

[$resources, $assignments] = [(int) ($argv[1] ?? 500), (int) ($argv[2] ?? 30_000)];
mt_srand(7);
$axes = array_map(static fn (string $hours): WorkAxis => new WorkAxis(Calendar::weekly(md5($hours), substr(md5($hours), 0, 8), $hours)),
    ['08:00-12:00 13:00-17:00', '06:00-14:00 14:00-22:00', '00:00-12:00']);
[$first, $last] = [9_800, 9_800 + 730];
$bounds = Period::Week->bounds($first, $last);
$crews = $work = [];
for ($i = 0; $i < $resources; $i++) {
    $crews[] = [Resource::read("r{$i}", ['key' => "R{$i}", 'calendar' => 'c', 'units' => 100 * mt_rand(1, 6)]), $axes[$i % 3]];
}
for ($i = 0; $i < $assignments; $i++) {
    $start = $first * 1440 + mt_rand(0, 700 * 1440);
    $work[] = [$i % $resources, $start, $start + mt_rand(1, 40) * 1440, mt_rand(60, 20_000), $axes[mt_rand(0, 2)],
        Spread::cases()[$i % 10 === 0 ? mt_rand(1, 3) : 0]];
}
$best = INF;
for ($round = 0; $round < 5; $round++) {
    $began = hrtime(true);
    $tables = array_map(static fn (WorkAxis $axis): DayTable => new DayTable($axis, $bounds[0], end($bounds) - 1), $axes);
    $loads = [];
    foreach ($crews as $i => [$resource, $axis]) {
        $loads[$i] = Load::of(new Capacity($resource, $axis), $tables[$i % 3]);
    }
    foreach ($work as [$i, $start, $finish, $minutes, $activity, $spread]) {
        $loads[$i]->add(new Demand($start, $finish, $minutes, $crews[$i][1], $activity, $spread));
    }
    $over = 0;
    foreach ($loads as $load) {
        Load::sums($load->demand, $bounds);
        Load::sums($load->capacity, $bounds);
        $over += count($load->overload());
    }
    $best = min($best, (hrtime(true) - $began) / 1e6);
}
echo json_encode(['resources' => $resources, 'assignments' => $assignments, 'weeks' => count($bounds) - 1, 'overloaded_days' => $over,
    'load_ms' => round($best)]), "\n";

<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Levelling;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\ResourceKind;

/** A job shop as a plan: each job a chain of activities, each machine one of a kind; a unit of time is a minute around the clock. */
final class JobShop
{
    /** proven optima, see shared data: README beside the instances */
    public const OPTIMA = ['ft06' => 55, 'la01' => 666, 'la02' => 655, 'la03' => 597, 'la04' => 590, 'la05' => 593, 'la06' => 926,
        'la07' => 890, 'la08' => 863, 'la09' => 951, 'la10' => 958, 'la11' => 1222, 'la12' => 1039, 'la13' => 1150, 'la14' => 1292,
        'la15' => 1207, 'abz6' => 943];

    public static function plan(string $text): Plan
    {
        $numbers = static fn (string $line): bool => preg_match('/^\d/', $line) === 1;
        $lines = array_values(array_filter(array_map(trim(...), explode("\n", $text)), $numbers));
        [, $machines] = self::numbers(array_shift($lines) ?? '');
        $parts = [Calendar::weekly('always', 'ALWAYS', '00:00-24:00', [1, 2, 3, 4, 5, 6, 7]),
            new Project('shop', 'SHOP', 'Shop', null, 'always', 14_000_000)];
        for ($m = 0; $m < $machines; $m++) {
            $parts[] = new Resource("m{$m}", "M{$m}", "Machine {$m}", ResourceKind::Equipment, 'always');
        }
        foreach ($lines as $j => $line) {
            $numbers = self::numbers($line);
            for ($k = 0; $k < $machines; $k++) {
                [$machine, $minutes] = [$numbers[2 * $k], $numbers[2 * $k + 1]];
                $parts[] = new Activity("j{$j}k{$k}", 'shop', null, (float) ($j * $machines + $k), "J{$j}K{$k}", '', duration: $minutes);
                $parts[] = new Assignment("a{$j}k{$k}", "j{$j}k{$k}", remainingWork: $minutes, resource: "m{$machine}", intensity: 100_000);
                if ($k > 0) {
                    $parts[] = new Link("l{$j}k{$k}", "j{$j}k".($k - 1), "j{$j}k{$k}", LinkType::FS);
                }
            }
        }

        return Plan::of($parts);
    }

    /** @return list<int> */
    private static function numbers(string $line): array
    {
        return array_map(intval(...), preg_split('/\s+/', trim($line)) ?: []);
    }
}

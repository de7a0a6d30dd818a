<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Levelling;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\CapacityStep;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\ResourceKind;

/** A plan as optima.py writes it. */
final class SmallPlan
{
    /** a Monday, 2027-03-01 */
    public const START = 14_286_240;

    /** @param  array<string, mixed>  $made */
    public static function of(array $made): Plan
    {
        /** @var array{resources: list<array{calendar: string, units: list<array{int, int}>}>, activities: list<array{calendar: string,
         *     hours: int, needs: list<array{int, int}>}>, links: list<array{int, int, string, int}>} $made */
        $parts = [Calendar::weekly('OFFICE', 'OFFICE', '08:00-12:00 13:00-17:00'),
            Calendar::weekly('LONG', 'LONG', '06:00-16:00', [1, 2, 3, 4, 5, 6]),
            Calendar::weekly('ALWAYS', 'ALWAYS', '00:00-24:00', [1, 2, 3, 4, 5, 6, 7]),
            new Project('small', 'SMALL', 'Small', null, 'ALWAYS', self::START)];
        foreach ($made['resources'] as $r => $of) {
            $parts[] = new Resource("r{$r}", "R{$r}", '', ResourceKind::Crew, $of['calendar'], 100 * $of['units'][0][1],
                array_map(static fn (array $step): CapacityStep => new CapacityStep(self::START + 60 * $step[0], 100 * $step[1]),
                    array_slice($of['units'], 1)));
        }
        foreach ($made['activities'] as $i => $of) {
            $minutes = 60 * $of['hours'];
            $parts[] = new Activity("a{$i}", 'small', null, (float) $i, "A{$i}", '', duration: $minutes, calendar: $of['calendar']);
            foreach ($of['needs'] as [$r, $percent]) {
                $parts[] = new Assignment("n{$i}r{$r}", "a{$i}", remainingWork: intdiv(60 * $of['hours'] * $percent, 100),
                    resource: "r{$r}", intensity: 1_000 * $percent);
            }
        }
        foreach ($made['links'] as $k => [$from, $to, $type, $lag]) {
            $parts[] = new Link("l{$k}", "a{$from}", "a{$to}", LinkType::from($type), 60 * $lag);
        }

        return Plan::of($parts);
    }
}

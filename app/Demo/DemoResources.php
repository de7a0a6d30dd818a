<?php

declare(strict_types=1);

namespace App\Demo;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\CapacityStep;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\RateStep;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\ResourceKind;

/** Who and what the work of the demo is done with. Berths of the dry dock and marine electricians are scarce. All invented. */
final class DemoResources
{
    /**
     * uid => key, name, sort, calendar, how many, an hour in cents, or the unit of a material and its price
     *
     * @var array<string, array{string, string, ResourceKind, string, int, int}>
     */
    private const RESOURCES = [
        'res-berths' => ['BERTH', 'Dry-dock berths', ResourceKind::Equipment, 'cal-dock', 2, 21_000],
        'res-electricians' => ['EL', 'Marine electricians', ResourceKind::Crew, 'cal-yard', 7, 6_450],
        'res-steel' => ['ST', 'Steelworkers', ResourceKind::Crew, 'cal-yard', 10, 5_900],
        'res-coating' => ['CO', 'Coating crew', ResourceKind::Crew, 'cal-dock', 3, 5_200],
        'res-cable' => ['CA', 'Cable jointers', ResourceKind::Crew, 'cal-grid', 7, 6_100],
        'res-civil' => ['CI', 'Civil works crew', ResourceKind::Crew, 'cal-harbour', 18, 5_450],
        'res-design' => ['DE', 'Design office', ResourceKind::Crew, 'cal-office', 30, 7_800],
        'res-commissioning' => ['CM', 'Commissioning engineers', ResourceKind::Crew, 'cal-office', 16, 8_400],
        'res-matej' => ['KOLAR', 'Matej Kolář', ResourceKind::Person, 'cal-office', 1, 8_900],
        'res-yuki' => ['TANABE', 'Yuki Tanabe', ResourceKind::Person, 'cal-office', 1, 8_600],
        'res-inga' => ['THORS', 'Inga Þórsdóttir', ResourceKind::Person, 'cal-office', 1, 7_400],
        'res-olumide' => ['BAKARE', 'Olumide Bakare', ResourceKind::Person, 'cal-office', 1, 8_100],
        'res-drum' => ['DRUM', 'Cable drum', ResourceKind::Material, 'drums', 0, 1_850_000],
        'res-diesel' => ['DIESEL', 'Diesel', ResourceKind::Material, 'l', 0, 142],
    ];

    /** pattern of code and name => who does it; the first that fits */
    private const WORK = [
        '/Dock: coating/' => 'res-coating', '/Dock: /' => 'res-steel', '/Stability|hull model/' => 'res-matej',
        '/-EL-.*software/i' => 'res-yuki', '/-EL-.*design/i' => 'res-design', '/manufacture|fabrication|cured|ordered/' => null,
        '/-EL-|Cabling|Switchgear|charging inlet/i' => 'res-electricians', '/-PE-/' => 'res-inga', '/Trench|reinstated/' => 'res-civil',
        '/-CA-|-ST-/' => 'res-cable', '/-DE-/' => 'res-design', '/-CI-|-TO-/' => 'res-civil', '/-CM-/' => 'res-commissioning',
        '/papers/i' => 'res-olumide', '/-PR-|-PA-/' => 'res-design', '/-HU-/' => 'res-steel', '/-TR-/' => 'res-commissioning',
    ];

    /** pattern => what is used beside it, how much in thousandths, and whether in each hour */
    private const BESIDE = ['/Dock: /' => ['res-berths', null, false], '/Cable laid/' => ['res-drum', 6_000, false],
        '/trial/i' => ['res-diesel', 180_000, true]];

    /**
     * @param  list<Entity>  $parts  of the demo
     * @param  int  $status  its status date
     * @return list<Entity>
     */
    public static function with(array $parts, int $status): array
    {
        $day = $status - $status % 1440;
        $resources = [];
        foreach (self::RESOURCES as $uid => [$key, $name, $kind, $calendar, $count, $rate]) {
            [$isMaterial, $isEquipment] = [$kind === ResourceKind::Material, $kind === ResourceKind::Equipment];
            $resources[] = new Resource($uid, $key, $name, $kind, $isMaterial ? null : $calendar, $isMaterial ? 100 : 100 * $count,
                match ($key) {
                    'EL' => [new CapacityStep($day + 150 * 1440, 900)],
                    'BERTH' => [new CapacityStep($day + 160 * 1440, 100), new CapacityStep($day + 190 * 1440, 200)], // a gate is mended
                    default => [],
                }, $isMaterial ? null : $rate,
                $isMaterial || $isEquipment ? [] : [new RateStep($day + 210 * 1440, intdiv($rate * 104, 100))],
                $isEquipment ? 1_200_000 : null, $isMaterial ? $calendar : '', $isMaterial ? $rate : null, $key === 'CM');
        }
        $activities = $made = [];
        foreach ($parts as $part) {
            $part instanceof Activity && $activities[$part->uid] = $part;
        }
        foreach ($parts as $i => $part) {
            $activity = $part instanceof Assignment ? $activities[$part->activity] : null;
            if (! $part instanceof Assignment || $activity === null) {
                continue;
            }
            $text = "{$activity->code} {$activity->name}";
            $resource = self::first(self::WORK, $text);
            $people = intdiv((int) $part->remainingWork, max(1, $activity->duration));
            $one = in_array($resource, ['res-matej', 'res-yuki', 'res-inga', 'res-olumide'], true);
            if ($resource !== null) {
                // zones are many and small: those who work there see to several at once
                $percent = match (true) {
                    preg_match('/-Z\d\d-/', $activity->code) === 1 => 20,
                    $one => 25,
                    default => 100 * $people,
                };
                $parts[$i] = Assignment::read($part->uid, ['resource' => $resource, 'intensity' => $percent * 1_000,
                    'remainingWork' => intdiv($percent * $activity->duration, 100)] + $part->fields());
            }
            foreach (self::BESIDE as $pattern => [$what, $quantity, $perHour]) {
                if (preg_match($pattern, $text) === 1) {
                    $made[] = $quantity === null
                        ? Assignment::read("use-{$part->activity}-{$what}", ['activity' => $part->activity, 'resource' => $what,
                            'intensity' => 100_000, 'remainingWork' => $activity->duration])
                        : Assignment::read("use-{$part->activity}-{$what}", ['activity' => $part->activity, 'resource' => $what,
                            'quantity' => $quantity, 'perHour' => $perHour]);
                }
            }
        }

        return [...$resources, ...$parts, ...$made];
    }

    /** @param  array<string, string|null>  $patterns */
    private static function first(array $patterns, string $text): ?string
    {
        foreach ($patterns as $pattern => $what) {
            if (preg_match($pattern, $text) === 1) {
                return $what;
            }
        }

        return null;
    }
}

<?php

declare(strict_types=1);

namespace App\Demo;

use Reihe\Core\Plan\Branch;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Entity;

/** Hierarchy and code sets of the demo. */
final class DemoEnterprise
{
    private const HIERARCHY = ['Varnsund Ferries' => ['Fleet' => ['Vessel conversions' => [], 'Dry dock' => []],
        'Harbours' => ['Shore power' => [], 'Quays' => []],
        'Grid and energy' => [], 'People and operations' => ['Crew' => [], 'Timetable and ticketing' => []], 'Archive' => []]];

    /** set => name, entries: key => name, key of the one above */
    private const CODES = [
        'DISTRICT' => ['District', ['INNER' => ['Inner fjord', null], 'OUTER' => ['Outer fjord', null], 'NORTH' => ['North coast', null]]],
        'STAGE' => ['Stage', ['DESIGN' => ['Design', null], 'DESIGN-CONCEPT' => ['Concept', 'DESIGN'],
            'DESIGN-DETAIL' => ['Detail', 'DESIGN'], 'BUILD' => ['Build', null],
            'BUILD-CIVIL' => ['Civil', 'BUILD'], 'BUILD-ELECTRICAL' => ['Electrical', 'BUILD'], 'TRIAL' => ['Trial', null]]],
    ];

    /** @return list<Entity> parents first */
    public static function parts(): array
    {
        $parts = self::branches(self::HIERARCHY, null);
        $order = 0;
        foreach (self::CODES as $key => [$name, $entries]) {
            $set = new CodeSet(self::set($key), CodeScope::Project, $key, $name, (float) $order++);
            $parts[] = $set;
            foreach ($entries as $entry => [$title, $above]) {
                $parts[] = new CodeEntry(self::entry($key, $entry), $set->uid, $above === null ? null : self::entry($key, $above), $entry,
                    $title, (float) count($parts));
            }
        }

        return $parts;
    }

    public static function branch(string $name): string
    {
        return 'branch-'.strtolower(explode(' ', $name)[0]);
    }

    public static function entry(string $set, string $entry): string
    {
        return strtolower("entry-{$set}-{$entry}");
    }

    private static function set(string $key): string
    {
        return strtolower("codeset-{$key}");
    }

    /**
     * @param  array<string, array<string, mixed>>  $tree
     * @return list<Branch>
     */
    private static function branches(array $tree, ?string $parent): array
    {
        $branches = [];
        $order = 0;
        foreach ($tree as $name => $below) {
            /** @var array<string, array<string, mixed>> $below */
            array_push($branches, new Branch(self::branch($name), $parent, $name, (float) $order++),
                ...self::branches($below, self::branch($name)));
        }

        return $branches;
    }
}

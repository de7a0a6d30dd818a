<?php

declare(strict_types=1);

namespace App\Demo;

use Reihe\Core\Plan\Branch;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\LevelScheme;
use Reihe\Core\Plan\OwnChoice;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\OwnType;
use Reihe\Core\Plan\Segment;
use Reihe\Core\Plan\SegmentKind;
use Reihe\Core\Plan\WbsLevel;

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

    /** further sets of the standard demo: scope, name, weight, entries: key => name, weight */
    private const MORE = [
        'KIND' => [CodeScope::Project, 'Asset kind', 1, ['VESSEL' => ['Vessel', 5], 'QUAY' => ['Quay', 3], 'GRID' => ['Grid', 4],
            'PEOPLE' => ['People', 2]]],
        'FUNDING' => [CodeScope::Project, 'Funding', 2, ['GRANT' => ['Climate grant', 5], 'LOAN' => ['Loan', 2],
            'OWN' => ['Own means', 3]]],
        'RISK' => [CodeScope::Project, 'Risk class', 1.5, ['LOW' => ['Low', 5], 'MEDIUM' => ['Medium', 3], 'HIGH' => ['High', 1]]],
        'DISCIPLINE' => [CodeScope::Activity, 'Discipline', 0, ['DESIGN' => ['Design', 0], 'CIVIL' => ['Civil works', 0],
            'STEEL' => ['Steel', 0],
            'ELECTRICAL' => ['Electrical', 0], 'MACHINERY' => ['Machinery', 0], 'TRIALS' => ['Trials', 0], 'PAPERS' => ['Papers', 0]]],
        'CONTRACTOR' => [CodeScope::Activity, 'Contractor', 0, ['YARD' => ['Ostvik yard', 0], 'LYS' => ['Fjordlys Electrical', 0],
            'BERG' => ['Bergholm Civil', 0], 'OWN' => ['Own people', 0]]],
        'SAFETY' => [CodeScope::Activity, 'Safety case', 0, ['FIRE' => ['Fire', 0], 'HV' => ['High voltage', 0], 'LIFT' => ['Lifting', 0]]],
    ];

    /** weights of the first sets in the standard demo: of the set, of its entries */
    private const WEIGHTS = ['DISTRICT' => [1, ['INNER' => 3, 'OUTER' => 4, 'NORTH' => 5]],
        'STAGE' => [3, ['DESIGN' => 2, 'DESIGN-CONCEPT' => 1, 'DESIGN-DETAIL' => 3, 'BUILD' => 4, 'BUILD-CIVIL' => 4,
            'BUILD-ELECTRICAL' => 5,
            'TRIAL' => 3]]];

    /** level codes of vessel projects: discipline => name; every one has zones, papers have kinds of papers */
    private const LEVELS = ['HU' => 'Hull and dock', 'EL' => 'Electrical', 'PR' => 'Propulsion', 'TR' => 'Trials', 'PA' => 'Papers'];

    /** @return list<Entity> parents first */
    public static function parts(bool $standard = false): array
    {
        $parts = self::branches(self::HIERARCHY, null);
        $order = 0;
        foreach (self::CODES as $key => [$name, $entries]) {
            [$weight, $weights] = $standard ? self::WEIGHTS[$key] : [0, []];
            $set = new CodeSet(self::set($key), CodeScope::Project, $key, $name, (float) $order++, weight: $weight,
                steward: $standard ? 'Ilse Marbach' : null);
            $parts[] = $set;
            foreach ($entries as $entry => [$title, $above]) {
                $parts[] = new CodeEntry(self::entry($key, $entry), $set->uid, $above === null ? null : self::entry($key, $above), $entry,
                    $title, (float) count($parts), weight: $weights[$entry] ?? 0);
            }
        }

        return $standard ? [...$parts, ...self::more((float) $order)] : $parts;
    }

    /** @return list<Entity> */
    private static function more(float $order): array
    {
        $parts = [];
        foreach (self::MORE as $key => [$scope, $name, $weight, $entries]) {
            $set = new CodeSet(self::set($key), $scope, $key, $name, $order++, weight: $weight, multiple: $key === 'SAFETY');
            $parts[] = $set;
            $colour = 0;
            foreach ($entries as $entry => [$title, $worth]) {
                $parts[] = new CodeEntry(self::entry($key, $entry), $set->uid, null, $entry, $title, (float) count($parts),
                    colour: ++$colour, weight: $worth);
            }
        }
        $segment = static fn (SegmentKind $kind, string $text = ''): Segment => new Segment($kind, $text);
        $parts[] = new LevelScheme('levels-vessel', 'VESSEL', 'Vessel conversion', [new WbsLevel('Discipline', 3, 2),
            new WbsLevel('Zone', 5, 3, '-')],
            [$segment(SegmentKind::ProjectKey), $segment(SegmentKind::Literal, '-'), $segment(SegmentKind::Levels),
                $segment(SegmentKind::Literal, '-'), $segment(SegmentKind::Counter)]);
        foreach (self::LEVELS as $code => $name) {
            $parts[] = new LevelCode("level-{$code}", 'levels-vessel', null, 1, $code, $name, $code === 'PA' ? 'Kind of paper' : null,
                (float) count($parts));
        }
        for ($zone = 1; $zone <= 12; $zone++) {
            $parts[] = new LevelCode("level-z{$zone}", 'levels-vessel', null, 2, sprintf('Z%02d', $zone), "Zone {$zone}", null,
                (float) $zone);
        }
        foreach (['CLA' => 'For class', 'CRW' => 'For the crew'] as $code => $name) {
            $parts[] = new LevelCode(strtolower("level-{$code}"), 'levels-vessel', 'level-PA', 2, $code, $name, null,
                (float) count($parts));
        }

        return [...$parts,
            new OwnField('own-priority', CodeScope::Project, 'PRIORITY', 'Priority', OwnType::Choice, [new OwnChoice('First'),
                new OwnChoice('Second'),
                new OwnChoice('Third')], 'In which order people and dock time are given', false, 1),
            new OwnField('own-sponsor', CodeScope::Project, 'SPONSOR', 'Sponsor', OwnType::Text, [], 'Who pays for it and wants it',
                false, 2),
            new OwnField('own-goal', CodeScope::Project, 'GOAL', 'Goal', OwnType::Text, [], 'What is different when it is done', false, 3),
            new OwnField('own-risk', CodeScope::Activity, 'RISK', 'Risk', OwnType::Choice, [new OwnChoice('Low'), new OwnChoice('Medium'),
                new OwnChoice('High')], 'How likely it is to take longer', false, 1),
            new OwnField('own-people', CodeScope::Activity, 'PEOPLE', 'People', OwnType::Number, [], 'How many work on it together',
                false, 2),
            new OwnField('own-setup', CodeScope::Activity, 'SETUP', 'Setting up', OwnType::Duration, [],
                'Of its duration, until work begins', false, 3),
            new OwnField('own-inspection', CodeScope::Activity, 'INSPECTION', 'Inspection booked', OwnType::Date, [],
                'Day on which the surveyor comes', false, 4),
            new OwnField('own-permit', CodeScope::Activity, 'PERMIT', 'Permit needed', OwnType::Flag, [], 'Hot work and work at height',
                false, 5),
            new OwnField('own-watch', CodeScope::Activity, 'WATCH', 'Watch', OwnType::Text, [], 'Little float where much can go wrong',
                false, 6, 'finished ? "" : totalFloat < 8 and own("RISK") == "High" ? "close" : totalFloat < 3 ? "tight" : ""'),
            new OwnField('own-ready', CodeScope::Activity, 'READY', 'Ready to inspect', OwnType::Date, [],
                'Finish with half the float used', false, 7, 'own("INSPECTION") == null ? null : finish + max(totalFloat ?? 0, 0) / 2')];
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

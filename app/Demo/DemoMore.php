<?php

declare(strict_types=1);

namespace App\Demo;

/** What the standard demo has besides the six projects of the small one: further projects, handovers, codes. All invented. */
final class DemoMore
{
    /** from, to, type and lag in days; from and to are activity codes */
    public const HANDOVERS = [
        ['KGRD-ST-0060', 'KALV-CM-0010', 'FS', 0], ['QUOS-WO-0050', 'OSTV-CI-0050', 'FS', 0], ['QUKA-WO-0050', 'KALV-CI-0020', 'FS', 2],
        ['DOCK-BE-0050', 'GANN-HU-0020', 'FS', 0], ['GANN-HU-0070', 'PLOV-HU-0020', 'FS', 2], ['PLOV-HU-0070', 'EIDR-HU-0020', 'FS', 2],
        ['TERN-TR-0060', 'PLOV-HU-0030', 'FS', 0], ['KALV-CM-0050', 'PLOV-TR-0020', 'FS', 0], ['LYNG-CM-0050', 'PLOV-TR-0040', 'FS', 0],
        ['TRES-CM-0050', 'EIDR-TR-0020', 'FS', 0], ['CREW-VE-0040', 'TIME-SW-0010', 'FS', 0], ['TICK-GO-0040', 'TIME-SW-0020', 'FS', 0],
        ['TERN-TR-0060', 'TIME-SW-0010', 'FS', 0], ['PLOV-TR-0060', 'TIME-SW-0030', 'FF', 5], ['BATT-DE-0010', 'TERN-EL-0050', 'FS', 0],
        ['BATT-DE-0020', 'GANN-EL-0050', 'FS', 1], ['BATT-DE-0030', 'PLOV-EL-0050', 'FS', 1],
    ];

    /** from and to code => days from the taker's planned start to the agreed date, owners, what is handed over */
    public const AGREEMENTS = [
        'KGRD-ST-0060 KALV-CM-0010' => [-4, 'Teodor Lindqvist', 'Teodor Lindqvist', '10 kV at the quay cabinet'],
        'DOCK-BE-0050 GANN-HU-0020' => [2, 'Aino Rautio', 'Aino Rautio', 'Berth 2 free, keel blocks set'],
        'KALV-CM-0050 PLOV-TR-0020' => [1, 'Teodor Lindqvist', 'Aino Rautio', 'Charger accepted'],
        'CREW-VE-0040 TIME-SW-0010' => [0, 'Chidi Okafor', 'Chidi Okafor', 'Two crews certified for Tern'],
        'BATT-DE-0010 TERN-EL-0050' => [3, 'Halden Cells', 'Aino Rautio', 'Battery racks at the yard gate'],
        'TICK-GO-0040 TIME-SW-0020' => [15, 'Chidi Okafor', 'Chidi Okafor', 'Tickets sold on board'],
    ];

    /** project key => entries of the code sets of projects */
    public const CODES = [
        'GRID' => ['KIND' => 'GRID', 'FUNDING' => 'GRANT', 'RISK' => 'MEDIUM'], 'OSTV' => ['KIND' => 'QUAY', 'FUNDING' => 'GRANT',
            'RISK' => 'HIGH'],
        'LYNG' => ['KIND' => 'QUAY', 'FUNDING' => 'GRANT', 'RISK' => 'MEDIUM'], 'TERN' => ['KIND' => 'VESSEL', 'FUNDING' => 'OWN',
            'RISK' => 'HIGH'],
        'GANN' => ['KIND' => 'VESSEL', 'FUNDING' => 'OWN', 'RISK' => 'MEDIUM'], 'CREW' => ['KIND' => 'PEOPLE', 'FUNDING' => 'OWN',
            'RISK' => 'LOW'],
        'KGRD' => ['DISTRICT' => 'NORTH', 'STAGE' => 'BUILD', 'KIND' => 'GRID', 'FUNDING' => 'GRANT', 'RISK' => 'HIGH'],
        'KALV' => ['DISTRICT' => 'NORTH', 'STAGE' => 'DESIGN-DETAIL', 'KIND' => 'QUAY', 'FUNDING' => 'GRANT', 'RISK' => 'MEDIUM'],
        'TRES' => ['DISTRICT' => 'OUTER', 'STAGE' => 'DESIGN-CONCEPT', 'KIND' => 'QUAY', 'FUNDING' => 'LOAN', 'RISK' => 'LOW'],
        'QUOS' => ['DISTRICT' => 'INNER', 'STAGE' => 'BUILD-CIVIL', 'KIND' => 'QUAY', 'FUNDING' => 'OWN', 'RISK' => 'MEDIUM'],
        'QUKA' => ['DISTRICT' => 'NORTH', 'STAGE' => 'DESIGN-DETAIL', 'KIND' => 'QUAY', 'FUNDING' => 'LOAN', 'RISK' => 'LOW'],
        'PLOV' => ['DISTRICT' => 'NORTH', 'STAGE' => 'DESIGN', 'KIND' => 'VESSEL', 'FUNDING' => 'LOAN', 'RISK' => 'MEDIUM'],
        'EIDR' => ['DISTRICT' => 'OUTER', 'STAGE' => 'DESIGN-CONCEPT', 'KIND' => 'VESSEL', 'FUNDING' => 'LOAN', 'RISK' => 'LOW'],
        'DOCK' => ['DISTRICT' => 'INNER', 'STAGE' => 'BUILD', 'KIND' => 'QUAY', 'FUNDING' => 'OWN', 'RISK' => 'HIGH'],
        'TIME' => ['STAGE' => 'DESIGN-CONCEPT', 'KIND' => 'PEOPLE', 'FUNDING' => 'OWN', 'RISK' => 'MEDIUM'],
        'TICK' => ['STAGE' => 'DESIGN', 'KIND' => 'PEOPLE', 'FUNDING' => 'OWN', 'RISK' => 'LOW'],
        'AUK' => ['DISTRICT' => 'INNER', 'STAGE' => 'TRIAL', 'KIND' => 'VESSEL', 'FUNDING' => 'GRANT', 'RISK' => 'LOW'],
    ];

    /** project key => values of the own fields */
    public const OWN = [
        'TERN' => ['PRIORITY' => 'First', 'SPONSOR' => 'Board of Varnsund Ferries',
            'GOAL' => 'Silent crossings Ostvik to Lyngholm by summer'],
        'OSTV' => ['PRIORITY' => 'First', 'SPONSOR' => 'Harbour trust'], 'GRID' => ['PRIORITY' => 'First'],
        'CREW' => ['PRIORITY' => 'Second'],
        'PLOV' => ['PRIORITY' => 'Second', 'GOAL' => 'Northern route without diesel'], 'EIDR' => ['PRIORITY' => 'Third'],
        'TIME' => ['PRIORITY' => 'Second', 'GOAL' => 'Half-hour service in the fjord'],
    ];

    /** project key => lead */
    public const LEADS = ['TERN' => 'Aino Rautio', 'GANN' => 'Aino Rautio', 'PLOV' => 'Mirela Stoica', 'EIDR' => 'Mirela Stoica',
        'OSTV' => 'Teodor Lindqvist', 'LYNG' => 'Teodor Lindqvist', 'KALV' => 'Teodor Lindqvist', 'TRES' => 'Ngozi Eze',
        'GRID' => 'Paulo Brandão',
        'KGRD' => 'Paulo Brandão', 'CREW' => 'Chidi Okafor', 'TIME' => 'Chidi Okafor', 'DOCK' => 'Aino Rautio', 'QUOS' => 'Ngozi Eze'];

    /** section => entry of the code set Discipline */
    public const DISCIPLINES = ['HU' => 'STEEL', 'EL' => 'ELECTRICAL', 'PR' => 'MACHINERY', 'TR' => 'TRIALS', 'PA' => 'PAPERS',
        'DE' => 'DESIGN',
        'CI' => 'CIVIL', 'TO' => 'ELECTRICAL', 'CM' => 'TRIALS', 'PE' => 'PAPERS', 'CA' => 'ELECTRICAL', 'ST' => 'ELECTRICAL',
        'SU' => 'DESIGN',
        'WO' => 'CIVIL', 'FE' => 'STEEL', 'BE' => 'CIVIL', 'EQ' => 'MACHINERY'];

    private const SECTIONS = [
        'QUAY' => [
            'SU' => ['Survey and design', [['0010', 'Divers’ survey', 6, ''], ['0020', 'Load assessment', 10, '0010'],
                ['0030', 'Strengthening design', 12, '0020'], ['0040', 'Permit of the coast authority', 15, '0020SS+4'],
                ['0050', 'Works released', 'finish', '0030 0040']]],
            'WO' => ['Works', [['0010', 'Site set up', 3, 'SU-0050'], ['0020', 'Old fenders removed', 5, '0010'],
                ['0030', 'Piles driven', 11, '0010'], ['0040', 'Beam cast', 8, '0030'], ['0050', 'Quay ready for traffic', 'finish',
                    '0040 FE-0020']]],
            'FE' => ['Fenders', [['0010', 'Fenders made', 25, 'SU-0030'], ['0020', 'Fenders hung', 6, '0010 WO-0020'],
                ['0030', 'Bollard test', '~2', '0020']]],
        ],
        'DOCK' => [
            'BE' => ['Berth', [['0010', 'Berth emptied', 2, ''], ['0020', 'Gate seals changed', 9, '0010'], ['0030', 'Keel blocks recast',
                12, '0010'],
                ['0040', 'Trial flooding', 3, '0020 0030'], ['0050', 'Berth 2 ready', 'finish', '0040 EQ-0030']]],
            'EQ' => ['Equipment', [['0010', 'Shore power cabinets', 10, 'BE-0010'], ['0020', 'Crane inspection', 4, ''],
                ['0030', 'Crane certified', 6, '0020'], ['0040', 'Lighting', '~5', '0010']]],
        ],
        'TIME' => [
            'PL' => ['Planning', [['0010', 'Passenger counts', 20, ''], ['0020', 'Draft timetable', 15, '0010'],
                ['0030', 'Hearing in the districts', 20, '0020'], ['0040', 'Timetable agreed', 'finish', '0030 0050'],
                ['0050', 'Charging windows checked', 10, '0020SS+5']]],
            'SW' => ['Switch', [['0010', 'First route switched', 5, 'PL-0040'], ['0020', 'Tickets and signs', 12, '0010'],
                ['0030', 'All routes switched', 10, '0020'], ['0040', 'New timetable in force', 'finish', '0030']]],
            'CO' => ['Communication', [['0010', 'Printed timetable', 12, 'PL-0040'], ['0020', 'Signs at the quays', 8, '0010'],
                ['0030', 'Campaign', '~15', '0010']]],
        ],
        'TICK' => [
            'SY' => ['System', [['0010', 'Needs written down', '~15', ''], ['0020', 'Tender', '~30', '0010'], ['0030', 'System adapted',
                '~40', '0020'],
                ['0040', 'Till connection', '~10', '0030SS+10']]],
            'GO' => ['Roll-out', [['0010', 'Readers ordered', 'start', 'SY-0020'], ['0020', 'Readers delivered', '~35', '0010'],
                ['0030', 'Trial on one vessel', '~10', '0020 SY-0030'], ['0040', 'Tickets on board', 'finish', '0030 SY-0040']]],
        ],
    ];

    /** code, name, days from the status date to start and finish: a supplier's schedule, kept in another system */
    public const OUTSIDE = [['BATT-PR-0010', 'Cells for Tern', -60, -5], ['BATT-DE-0010', 'Racks for Tern delivered', 12, 16],
        ['BATT-PR-0020', 'Cells for Gannet', 10, 70], ['BATT-DE-0020', 'Racks for Gannet delivered', 84, 88],
        ['BATT-PR-0030', 'Cells for Plover', 90, 160], ['BATT-DE-0030', 'Racks for Plover delivered', 172, 176]];

    /**
     * Key => name, branch, calendar, start and deadline in days from the status date, rows, zones by section.
     *
     * @return array<string, array{string, string, string, int, int|null, string, array<string, int>}>
     */
    public static function projects(): array
    {
        return [
            'KGRD' => ['Kalvhamn grid connection', 'Grid and energy', 'grid', -20, 140, 'GRID', []],
            'KALV' => ['Shore power Kalvhamn', 'Shore power', 'harbour', 5, 175, 'HARBOUR', []],
            'TRES' => ['Shore power Treskjaer', 'Shore power', 'harbour', 30, 195, 'HARBOUR', []],
            'QUOS' => ['Ostvik quay strengthening', 'Quays', 'harbour', -60, 60, 'QUAY', []],
            'QUKA' => ['Kalvhamn quay and fenders', 'Quays', 'harbour', 0, 120, 'QUAY', []],
            'PLOV' => ['Conversion of Plover', 'Vessel conversions', 'yard', 40, 255, 'VESSEL', ['HU' => 10, 'EL' => 12, 'PR' => 4]],
            'EIDR' => ['Conversion of Eider', 'Vessel conversions', 'yard', 90, 300, 'VESSEL', ['HU' => 10, 'EL' => 12, 'PR' => 4]],
            'DOCK' => ['Dry dock, berth 2', 'Dry dock', 'dock', -12, 25, 'DOCK', []],
            'TIME' => ['Timetable 2027', 'Timetable and ticketing', 'office', 20, 260, 'TIME', []],
            'TICK' => ['Ticketing on board', 'Timetable and ticketing', 'office', 35, 240, 'TICK', []],
            'AUK' => ['Trial conversion of Auk', 'Archive', 'yard', -420, null, 'VESSEL', []],
        ];
    }

    /** @return array<string, array{string, list<array{string, string, float|string, string}>}> */
    public static function rows(string $of): array
    {
        return match ($of) {
            'GRID' => DemoRows::GRID,
            'HARBOUR' => DemoRows::HARBOUR,
            'VESSEL' => DemoRows::VESSEL,
            default => self::SECTIONS[$of] ?? [],
        };
    }
}

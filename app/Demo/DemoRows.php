<?php

declare(strict_types=1);

namespace App\Demo;

/**
 * Rows of the demo projects: section => name, rows of code, name, days, predecessors. A predecessor is `0010`, or
 * `EL-0010` in another section, with link type and lag in days where it is not a plain FS. All invented.
 */
final class DemoRows
{
    public const GRID = [
        'PE' => ['Permits', [
            ['0010', 'Route survey', 8, ''],
            ['0020', 'Cable route permit', 20, '0010'],
            ['0030', 'Crossing agreement, coast road', 12, '0010SS+3'],
            ['0040', 'Permits granted', 'finish', '0020 0030'],
        ]],
        'CA' => ['Cable', [
            ['0010', 'Cable drums ordered', 'start', 'PE-0010'],
            ['0020', 'Cable manufacture', 35, '0010'],
            ['0030', 'Trench, harbour side', 14, 'PE-0040'],
            ['0040', 'Trench, hill side', 18, '0030SS+5'],
            ['0050', 'Cable laid and jointed', 12, '0020 0030 0040'],
            ['0060', 'Route reinstated', 9, '0050FF+4'],
        ]],
        'ST' => ['Substation', [
            ['0010', 'Foundation and bund', 11, 'PE-0040'],
            ['0020', 'Transformer set and wired', 12, '0010'],
            ['0030', 'Protection settings', '~6', '0020SS+4'],
            ['0040', 'Cable terminated', 5, '0020 CA-0050'],
            ['0050', 'Test and energise', 6, '0030 0040'],
            ['0060', 'Grid energised', 'finish', '0050'],
        ]],
    ];

    public const HARBOUR = [
        'DE' => ['Design', [
            ['0010', 'Quay survey', 5, ''],
            ['0020', 'Charging tower design', 15, '0010'],
            ['0030', 'Foundation design', 10, '0010 0020SS+5'],
            ['0040', 'Drawings approved', 'finish', '0020 0030'],
        ]],
        'CI' => ['Civil works', [
            ['0010', 'Sheet piling', 12, 'DE-0040'],
            ['0020', 'Foundation cast', 9, '0010'],
            ['0030', 'Concrete cured', 7, '0020'],
            ['0040', 'Cable ducts', 10, '0020SS+3'],
            ['0050', 'Quay surface restored', 8, '0030 0040'],
        ]],
        'TO' => ['Charging tower', [
            ['0010', 'Tower fabrication', 40, 'DE-0040'],
            ['0020', 'Tower and plug arm erected', 10, '0010 CI-0030'],
            ['0030', 'Switchgear and converters', 14, 'CI-0050FS-2'],
            ['0040', 'Cabling to tower', 9, '0020 0030SS+4'],
            ['0050', 'Cold checks', '~4', '0030 0040'],
        ]],
        'CM' => ['Commissioning', [
            ['0010', 'Commissioning', 15, 'TO-0050'],
            ['0020', 'Plug alignment with hull model', 6, 'TO-0020'],
            ['0030', 'Operator training', 8, '0010SS+5'],
            ['0040', 'Acceptance test', 3, '0010 0020'],
            ['0050', 'Charger accepted', 'finish', '0040'],
            ['0060', 'As-built papers', 10, '0050 0030'],
        ]],
    ];

    public const VESSEL = [
        'HU' => ['Hull and dock', [
            ['0010', 'Stability study', 14, ''],
            ['0020', 'Dock, vessel enters', 'start', '0010'],
            ['0030', 'Dock: diesel plant out', 9, '0020'],
            ['0040', 'Dock: battery room steel', 16, '0030'],
            ['0050', 'Dock: sea chests closed', 7, '0030SS+3'],
            ['0060', 'Dock: coating', 6, '0040FS-2 0050'],
            ['0070', 'Vessel leaves the dock', 'finish', '0060 PR-0030'],
        ]],
        'EL' => ['Electrical', [
            ['0010', 'Single line design', 18, ''],
            ['0020', 'Switchboards ordered', 'start', '0010'],
            ['0030', 'Switchboard manufacture', 45, '0020'],
            ['0040', 'Battery room cabling', 22, 'HU-0040SS+10 0010'],
            ['0050', 'Battery racks installed', 10, 'HU-0040 0040FF+2'],
            ['0060', 'Switchboards installed', 8, '0030 0040SS+6'],
            ['0070', 'Switchboard tests', '~8', '0060'],
            ['0080', 'Charging inlet fitted', 6, 'HU-0070'],
            ['0090', 'Energy management software', 25, '0010SS+10'],
            ['0100', 'Battery capacity test', 5, '0050 0070'],
        ]],
        'PR' => ['Propulsion', [
            ['0010', 'Motors ordered', 'start', 'EL-0010SS+5'],
            ['0020', 'Motor manufacture', 38, '0010'],
            ['0030', 'Motors and shafts fitted', 9, '0020 HU-0030'],
            ['0040', 'Alignment afloat', 4, '0030 HU-0070'],
            ['0050', 'Drive commissioning', 7, '0040 EL-0100'],
            ['0060', 'Wheelhouse consoles', 12, 'EL-0090SS+8'],
            ['0070', 'Fire detection and cooling', 11, 'EL-0050SS+2'],
        ]],
        'TR' => ['Trials', [
            ['0010', 'Harbour trials', 5, 'PR-0050 PR-0060 PR-0070 EL-0090'],
            ['0020', 'Charging trials, first harbour', 4, '0010 EL-0080'],
            ['0030', 'Sea trials', 6, '0020'],
            ['0040', 'Charging trials, second harbour', 4, '0030'],
            ['0050', 'Class survey', 5, '0030'],
            ['0060', 'Class approval', 'finish', '0050 0040'],
        ]],
        'PA' => ['Papers', [
            ['0010', 'Fire safety analysis', 15, 'EL-0010'],
            ['0020', 'Operating manual', '~12', '0010'],
            ['0030', 'Drawings as built', 9, 'TR-0010'],
            ['0040', 'Maintenance plan', 10, '0020SS+4'],
            ['0050', 'Spare parts list', 6, '0040'],
            ['0060', 'Papers handed to class', 'finish', '0010 0020 0030'],
        ]],
    ];

    public const CREW = [
        'CO' => ['Course', [
            ['0010', 'Course plan', 8, ''],
            ['0020', 'High voltage course, first group', 10, '0010'],
            ['0030', 'High voltage course, second group', 10, '0020'],
            ['0040', 'Shore staff course', 6, '0020SS+5'],
        ]],
        'SI' => ['Simulator', [
            ['0010', 'Simulator model of the vessel', 20, 'CO-0010'],
            ['0020', 'Simulator course, masters', 12, '0010 CO-0020'],
            ['0030', 'Simulator course, engineers', 9, '0010 CO-0030'],
            ['0040', 'Emergency drills', '~5', '0020 0030'],
        ]],
        'VE' => ['On board', [
            ['0010', 'Familiarisation on board', 10, 'SI-0040'],
            ['0020', 'Certification on board', 10, '0010'],
            ['0030', 'Papers issued', 5, '0020FS+2'],
            ['0040', 'Crew certified', 'finish', '0030 CO-0040'],
        ]],
        'RO' => ['Rosters', [
            ['0010', 'Roster for two vessels', 12, 'CO-0010'],
            ['0020', 'Union hearing', 8, '0010'],
            ['0030', 'Roster agreed', 'finish', '0020'],
            ['0040', 'Relief crew hired', '~20', '0030'],
            ['0050', 'Relief crew trained', 10, '0040 SI-0010'],
        ]],
    ];

    /** One zone of a vessel in the large demo. */
    public const ZONE = [
        ['0010', 'Survey and mark out', 3, ''],
        ['0020', 'Strip out', 5, '0010'],
        ['0030', 'Steel prepared', 4, '0010'],
        ['0040', 'Steel fitted', 7, '0020 0030'],
        ['0050', 'Cable trays', 4, '0040SS+2'],
        ['0060', 'Cables pulled', 6, '0050'],
        ['0070', 'Cables connected', '~4', '0060FS+1'],
        ['0080', 'Insulation', 5, '0040'],
        ['0090', 'Panels closed', 3, '0070 0080'],
        ['0100', 'Zone accepted', 'finish', '0090'],
    ];
}

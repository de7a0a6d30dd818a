<?php

declare(strict_types=1);

namespace App\OData\Sets;

use App\OData\EdmType;
use App\OData\EntitySet;
use App\OData\Model;
use App\OData\Property;
use Reihe\Core\Plan\EntityKind;

/** What projects and activities are coded with and have in own fields. */
final class CodedSets
{
    /** what was typed into own fields of activities, and what formulas give ({@see Query}) */
    private const OF_ACTIVITIES = "(SELECT uid, project_id, activity_id, field_id, value FROM own_values WHERE activity_id IS NOT NULL
        UNION ALL SELECT CONCAT(o.uid, '@', a.uid), a.project_id, a.id, x.field_id, x.value FROM formula_values x
            JOIN activities a ON a.id = x.activity_id JOIN own_fields o ON o.id = x.field_id)";

    public static function coding(bool $activities): EntitySet
    {
        $of = $activities ? ['Activity', 'Activities', 'ActivityId'] : ['Project', 'Projects', 'ProjectId'];

        return EntitySet::stored($activities ? 'ActivityCoding' : 'ProjectCoding', $activities ? 'ActivityCode' : 'ProjectCode',
            'codings c JOIN '.Model::LIVE.' p ON p.id = c.project_id AND c.activity_id IS '.($activities ? 'NOT ' : '').'NULL
                JOIN code_entries e ON e.id = c.entry_id JOIN code_sets s ON s.id = e.code_set_id LEFT JOIN
                                activities a ON a.id = c.activity_id',
            'p.branch_id', $activities ? 'What activities are coded with.' : 'What projects are coded with.',
            Described::properties(EntityKind::Coding, [['Id', 'c.uid'], ['ProjectId', 'p.uid', 'project'],
                ...($activities ? [['ActivityId', 'a.uid', 'activity']] : []),
                ['EntryId', 'e.uid', 'entry'], ['EntryKey', 'e.`key`', 'entry.key'], ['EntryName', 'e.name', 'entry.name'],
                ['CodeSetKey', 's.`key`', 'entry.codeSet.key'], ['CodeSetName', 's.name', 'entry.codeSet.name']]),
            Described::navigations([['Entry', 'CodeEntries', 'EntryId', 'Id', false, $activities ? 'ActivityCoding' : 'ProjectCoding'],
                [$of[0], $of[1], $of[2], 'Id', false, 'Codes']]));
    }

    /** Values as text, and beside it as what they are, so that others can count with them. */
    public static function ownValues(bool $activities): EntitySet
    {
        $of = $activities ? ['Activity', 'Activities', 'ActivityId'] : ['Project', 'Projects', 'ProjectId'];

        return EntitySet::stored($activities ? 'ActivityOwnValues' : 'ProjectOwnValues', $activities ? 'ActivityOwnValue'
            : 'ProjectOwnValue',
            ($activities ? self::OF_ACTIVITIES : 'own_values').' v JOIN '.Model::LIVE.' p ON p.id = v.project_id AND v.activity_id IS '
                .($activities ? 'NOT ' : '').'NULL JOIN own_fields f ON f.id = v.field_id LEFT JOIN activities a ON a.id = v.activity_id',
            'p.branch_id', $activities ? 'What activities have in own fields.' : 'What projects have in own fields.',
            Described::properties(EntityKind::OwnValue, [['Id', 'v.uid'], ['ProjectId', 'p.uid', 'project'],
                ...($activities ? [['ActivityId', 'a.uid', 'activity']] : []), ['FieldId', 'f.uid', 'field'],
                ['FieldKey', 'f.`key`', 'field.key'], ['FieldName', 'f.name', 'field.name'], ['Value', 'v.value', 'value']]) + [
                    'Number' => new Property('Number', EdmType::Ratio, "CASE f.type WHEN 'number' THEN CAST(v.value AS DOUBLE)
                        WHEN 'duration' THEN CAST(v.value AS DOUBLE) / 60 WHEN 'flag' THEN 1 END",
                        'Value of a number, of a duration in hours, 1 of a flag that is set.'),
                    'Date' => new Property('Date', EdmType::Moment,
                        "CASE f.type WHEN 'date' THEN TIMESTAMPDIFF(MINUTE, '2000-01-01', REPLACE(v.value, 'T', ' ')) END",
                        'Value of a date.'),
                ],
            Described::navigations([['Field', 'OwnFields', 'FieldId', 'Id', false, $activities ? 'ActivityValues' : 'ProjectValues'],
                [$of[0], $of[1], $of[2], 'Id', false, 'OwnValues']]));
    }
}

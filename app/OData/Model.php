<?php

declare(strict_types=1);

namespace App\OData;

use Reihe\Core\Plan\Computed;
use Reihe\Core\Plan\EntityKind;

/** The entity sets of the feed. Names are plain; what a property is stands in the catalogue of fields. */
final class Model
{
    public const NAMESPACE = 'Reihe';

    /** projects that work is done in: no templates, no fragments */
    private const LIVE = "(SELECT * FROM projects WHERE kept IN ('here', 'outside'))";

    /** what was typed into own fields of activities, and what formulas give ({@see Query}) */
    private const OF_ACTIVITIES = "(SELECT uid, project_id, activity_id, field_id, value FROM own_values WHERE activity_id IS NOT NULL
        UNION ALL SELECT CONCAT(o.uid, '@', a.uid), a.project_id, a.id, x.field_id, x.value FROM formula_values x
            JOIN activities a ON a.id = x.activity_id JOIN own_fields o ON o.id = x.field_id)";

    /** @return array<string, EntitySet> */
    public static function sets(): array
    {
        return ['Projects' => self::projects(), 'Activities' => self::activities(), 'Links' => self::links(),
            'Assignments' => self::assignments(),
            'Remarks' => self::remarks(), 'CodeSets' => self::codeSets(), 'CodeEntries' => self::codeEntries(),
            'ProjectCoding' => self::coding(false), 'ActivityCoding' => self::coding(true), 'OwnFields' => self::ownFields(),
            'ProjectOwnValues' => self::ownValues(false), 'ActivityOwnValues' => self::ownValues(true)];
    }

    public static function set(string $name): EntitySet
    {
        return self::sets()[$name] ?? throw new ODataError(404, "There is no entity set “{$name}”.", $name);
    }

    private static function projects(): EntitySet
    {
        return new EntitySet('Projects', 'Project',
            self::LIVE.' p JOIN branches b ON b.id = p.branch_id LEFT JOIN project_dates d ON d.project_id = p.id', 'p.branch_id',
            'One schedule each.', self::properties(EntityKind::Project, [
                ['Id', 'p.uid'],
                ['Key', 'p.`key`', 'key'],
                ['Name', 'p.name', 'name'],
                ['Branch', 'b.name', 'branch'],
                ['Kept', 'p.kept', 'kept'],
                ['Lead', 'p.lead', 'lead'],
                ['PlannedStart', 'p.start', '=start'],
                ['StatusDate', 'p.status_date', 'statusDate'],
                ['Deadline', 'p.deadline', 'deadline'],
                ['Start', 'd.start', 'start', true],
                ['Finish', 'd.finish', 'finish'],
                ['TotalFloatHours', 'd.total_float', 'totalFloat'],
                ['Critical', 'COALESCE(d.critical, 0)', 'critical'],
                ['Progress', 'IF(COALESCE(d.planned, 0) > 0, d.done / d.planned / 100000, COALESCE(d.finished, 0))', 'percent'],
                ['DeadlineMarginHours', 'd.margin', 'margin'],
                ['WorkHours', 'COALESCE(d.work, 0)', 'work'],
                ['Revision', 'p.revision', 'revision'],
            ]), self::navigations([['Activities', 'Activities', 'Id', 'ProjectId', true, 'Project'],
                ['Codes', 'ProjectCoding', 'Id', 'ProjectId', true, 'Project'],
                ['OwnValues', 'ProjectOwnValues', 'Id', 'ProjectId', true, 'Project']]));
    }

    private static function activities(): EntitySet
    {
        return new EntitySet('Activities', 'Activity', 'activities a JOIN '.self::LIVE.' p ON p.id = a.project_id LEFT
            JOIN wbs_elements w ON w.id = a.wbs_id LEFT JOIN activity_dates d ON d.activity_id = a.id
            LEFT JOIN outside_dates o ON o.activity_id = a.id LEFT JOIN baselines bl ON bl.project_uid = p.uid AND bl.current = 1 LEFT
                JOIN baseline_rows br ON br.baseline_id = bl.id AND br.kind = \'activity\' AND br.uid = a.uid', 'p.branch_id',
            'Pieces of work with their dates and floats.', self::properties(EntityKind::Activity, [
                ['Id', 'a.uid'],
                ['ProjectId', 'p.uid', 'project'],
                ['ProjectKey', 'p.`key`', 'project.key'],
                ['Code', 'a.code', 'code'],
                ['Name', 'a.name', 'name'],
                ['WbsCode', 'w.code', 'wbs.code', true],
                ['WbsName', 'w.name', 'wbs.name', true],
                ['Kind', 'a.kind', 'kind'],
                ['Duration', 'a.duration', 'duration', false, EdmType::Span],
                ['DurationHours', 'a.duration', 'duration'],
                ['Estimate', 'a.estimate', 'estimate'],
                ['Start', 'd.start', 'start', true],
                ['Finish', 'd.finish', 'finish', true],
                ['LateStart', 'd.late_start', 'lateStart'],
                ['LateFinish', 'd.late_finish', 'lateFinish'],
                ['ActualStart', 'a.actual_start', 'actualStart'],
                ['ActualFinish', 'a.actual_finish', 'actualFinish'],
                ['Deadline', 'a.deadline', 'deadline'],
                ['TotalFloatHours', 'd.total_float', 'totalFloat'],
                ['FreeFloatHours', 'd.free_float', 'freeFloat'],
                ['Critical', 'COALESCE(d.critical, 0)', 'critical'],
                ['NearCritical', 'COALESCE(d.near_critical, 0)', 'nearCritical'],
                ['Progress', 'COALESCE(d.percent, 0) / 100000', 'percent'],
                ['Source', 'o.source', 'source'],
                ['AsOf', 'o.as_of', 'asOf'],
                ['BaselineStart', 'br.start', 'baselineStart'],
                ['BaselineFinish', 'br.finish', 'baselineFinish'],
            ]), self::navigations([
                ['Project', 'Projects', 'ProjectId', 'Id', false, 'Activities'],
                ['Successors', 'Links', 'Id', 'PredecessorId', true, 'Predecessor'],
                ['Predecessors', 'Links', 'Id', 'SuccessorId', true, 'Successor'],
                ['Remarks', 'Remarks', 'Id', 'ActivityId', true, 'Activity'],
                ['Assignments', 'Assignments', 'Id', 'ActivityId', true, 'Activity'],
                ['Codes', 'ActivityCoding', 'Id', 'ActivityId', true, 'Activity'],
                ['OwnValues', 'ActivityOwnValues', 'Id', 'ActivityId', true, 'Activity'],
            ]));
    }

    private static function links(): EntitySet
    {
        return new EntitySet('Links', 'Link', 'links l JOIN activities f ON f.id = l.from_id JOIN activities t ON t.id = l.to_id
            JOIN '.self::LIVE.' p ON p.id = l.to_project_id JOIN projects q ON q.id = l.from_project_id
            LEFT JOIN link_dates d ON d.link_id = l.id LEFT JOIN agreements g ON g.link_id = l.id LEFT
                JOIN handover_dates h ON h.link_id = l.id', 'p.branch_id',
            'Dependencies between activities.', self::properties(EntityKind::Link, [
                ['Id', 'l.uid'],
                ['PredecessorId', 'f.uid', 'from'],
                ['SuccessorId', 't.uid', 'to'],
                ['Type', 'l.type', 'type'],
                ['Lag', 'l.lag', 'lag', false, EdmType::Span],
                ['LagHours', 'l.lag', 'lag'],
                ['Handover', 'l.handover', 'handover'],
                ['Driving', 'COALESCE(d.driving, 0)', 'driving'],
                ['AgreedDate', 'g.agreed', 'agreed'],
                ['Forecast', 'h.forecast', 'forecast'],
                ['MarginHours', 'h.margin', 'handoverMargin'],
                ['HandoverState', 'h.state', 'state'],
                ['FloatHours', 'd.link_float', 'linkFloat'],
            ]), self::navigations([
                ['Predecessor', 'Activities', 'PredecessorId', 'Id', false, 'Successors'],
                ['Successor', 'Activities', 'SuccessorId', 'Id', false, 'Predecessors'],
            ]), 'q.branch_id');
    }

    private static function assignments(): EntitySet
    {
        return new EntitySet('Assignments', 'Assignment',
            'assignments s JOIN activities a ON a.id = s.activity_id JOIN '.self::LIVE.' p ON p.id = s.project_id', 'p.branch_id',
            'Work on activities and what it costs.',
            self::properties(EntityKind::Assignment, [['Id', 's.uid'], ['ActivityId', 'a.uid', 'activity'],
                ['ActualWorkHours', 's.actual_work', 'actualWork'], ['RemainingWorkHours', 's.remaining_work', 'remainingWork'],
                ['Cost', 's.cost', 'cost']]),
            self::navigations([['Activity', 'Activities', 'ActivityId', 'Id', false, 'Assignments']]));
    }

    private static function remarks(): EntitySet
    {
        return new EntitySet('Remarks', 'Remark',
            'remarks r JOIN activities a ON a.id = r.activity_id JOIN '.self::LIVE.' p ON p.id = r.project_id', 'p.branch_id',
            'What people have to say about activities.',
            self::properties(EntityKind::Remark,
                [['Id', 'r.uid'], ['ActivityId', 'a.uid', 'activity'], ['Text', 'r.text', 'text'], ['Author', 'r.author', 'author'],
                    ['Written', 'r.written', 'written']]),
            self::navigations([['Activity', 'Activities', 'ActivityId', 'Id', false, 'Remarks']]));
    }

    private static function codeSets(): EntitySet
    {
        return new EntitySet('CodeSets', 'CodeSet', 'code_sets s', null,
            'Named lists of entries that projects and activities are coded with.',
            self::properties(EntityKind::CodeSet, [['Id', 's.uid'], ['Scope', 's.scope', 'scope'], ['Key', 's.`key`', 'key'],
                ['Name', 's.name', 'name'], ['Description', 's.description', 'description'], ['Weight', 's.weight', 'weight'],
                ['Steward', 's.steward', 'steward'], ['Multiple', 's.multiple', 'multiple']]),
            self::navigations([['Entries', 'CodeEntries', 'Id', 'CodeSetId', true, 'CodeSet']]));
    }

    private static function codeEntries(): EntitySet
    {
        return new EntitySet('CodeEntries', 'CodeEntry', 'code_entries e JOIN code_sets s ON s.id = e.code_set_id
                LEFT JOIN code_entries u ON u.id = e.parent_id', null, 'Entries of code sets.',
            self::properties(EntityKind::Entry, [['Id', 'e.uid'], ['CodeSetId', 's.uid', 'codeSet'], ['ParentId', 'u.uid', 'parent'],
                ['Key', 'e.`key`', 'key'], ['Name', 'e.name', 'name'], ['Description', 'e.description', 'description'],
                ['Weight', 'e.weight', 'weight'], ['Steward', 'e.steward', 'steward'], ['Retired', 'e.retired', 'retired']]),
            self::navigations([['CodeSet', 'CodeSets', 'CodeSetId', 'Id', false, 'Entries'],
                ['ProjectCoding', 'ProjectCoding', 'Id', 'EntryId', true, 'Entry'],
                ['ActivityCoding', 'ActivityCoding', 'Id', 'EntryId', true, 'Entry']]));
    }

    private static function coding(bool $activities): EntitySet
    {
        $of = $activities ? ['Activity', 'Activities', 'ActivityId'] : ['Project', 'Projects', 'ProjectId'];

        return new EntitySet($activities ? 'ActivityCoding' : 'ProjectCoding', $activities ? 'ActivityCode' : 'ProjectCode',
            'codings c JOIN '.self::LIVE.' p ON p.id = c.project_id AND c.activity_id IS '.($activities ? 'NOT ' : '').'NULL
                JOIN code_entries e ON e.id = c.entry_id JOIN code_sets s ON s.id = e.code_set_id LEFT JOIN
                                activities a ON a.id = c.activity_id',
            'p.branch_id', $activities ? 'What activities are coded with.' : 'What projects are coded with.',
            self::properties(EntityKind::Coding, [['Id', 'c.uid'], ['ProjectId', 'p.uid', 'project'],
                ...($activities ? [['ActivityId', 'a.uid', 'activity']] : []),
                ['EntryId', 'e.uid', 'entry'], ['EntryKey', 'e.`key`', 'entry.key'], ['EntryName', 'e.name', 'entry.name'],
                ['CodeSetKey', 's.`key`', 'entry.codeSet.key'], ['CodeSetName', 's.name', 'entry.codeSet.name']]),
            self::navigations([['Entry', 'CodeEntries', 'EntryId', 'Id', false, $activities ? 'ActivityCoding' : 'ProjectCoding'],
                [$of[0], $of[1], $of[2], 'Id', false, 'Codes']]));
    }

    private static function ownFields(): EntitySet
    {
        return new EntitySet('OwnFields', 'OwnField', 'own_fields f', null, 'Fields that the enterprise added.',
            self::properties(EntityKind::OwnField, [['Id', 'f.uid'], ['Scope', 'f.scope', 'scope'],
                ['Key', 'f.`key`', 'key'], ['Name', 'f.name', 'name'], ['Type', 'f.type', 'type'],
                ['Description', 'f.description', 'description'], ['Required', 'f.required', 'required'],
                ['Formula', 'f.formula', 'formula']]),
            self::navigations([['ProjectValues', 'ProjectOwnValues', 'Id', 'FieldId', true, 'Field'],
                ['ActivityValues', 'ActivityOwnValues', 'Id', 'FieldId', true, 'Field']]));
    }

    /** Values as text, and beside it as what they are, so that others can count with them. */
    private static function ownValues(bool $activities): EntitySet
    {
        $of = $activities ? ['Activity', 'Activities', 'ActivityId'] : ['Project', 'Projects', 'ProjectId'];

        return new EntitySet($activities ? 'ActivityOwnValues' : 'ProjectOwnValues', $activities ? 'ActivityOwnValue' : 'ProjectOwnValue',
            ($activities ? self::OF_ACTIVITIES : 'own_values').' v JOIN '.self::LIVE.' p ON p.id = v.project_id AND v.activity_id IS '
                .($activities ? 'NOT ' : '').'NULL JOIN own_fields f ON f.id = v.field_id LEFT JOIN activities a ON a.id = v.activity_id',
            'p.branch_id', $activities ? 'What activities have in own fields.' : 'What projects have in own fields.',
            self::properties(EntityKind::OwnValue, [['Id', 'v.uid'], ['ProjectId', 'p.uid', 'project'],
                ...($activities ? [['ActivityId', 'a.uid', 'activity']] : []), ['FieldId', 'f.uid', 'field'],
                ['FieldKey', 'f.`key`', 'field.key'], ['FieldName', 'f.name', 'field.name'], ['Value', 'v.value', 'value']]) + [
                    'Number' => new Property('Number', EdmType::Ratio, "CASE f.type WHEN 'number' THEN CAST(v.value AS DOUBLE)
                        WHEN 'duration' THEN CAST(v.value AS DOUBLE) / 60 WHEN 'flag' THEN 1 END",
                        'Value of a number, of a duration in hours, 1 of a flag that is set.'),
                    'Date' => new Property('Date', EdmType::Moment,
                        "CASE f.type WHEN 'date' THEN TIMESTAMPDIFF(MINUTE, '2000-01-01', REPLACE(v.value, 'T', ' ')) END",
                        'Value of a date.'),
                ],
            self::navigations([['Field', 'OwnFields', 'FieldId', 'Id', false, $activities ? 'ActivityValues' : 'ProjectValues'],
                [$of[0], $of[1], $of[2], 'Id', false, 'OwnValues']]));
    }

    /**
     * Properties as the catalogue of fields describes them.
     *
     * @param  list<array{0: string, 1: string, 2?: string, 3?: bool, 4?: EdmType}>  $list  name, SQL, field (computed before stored,
     *     `=` for the stored one, `field.other` for a field of what a reference names; none for the uid), whether it may be empty in
     *     spite of the catalogue, type
     * @return array<string, Property>
     */
    private static function properties(EntityKind $kind, array $list): array
    {
        $named = [];
        foreach ($list as $p) {
            if (! isset($p[2])) {
                $named[$p[0]] = new Property($p[0], EdmType::Text, $p[1], 'Stable identifier.', false);

                continue;
            }
            $names = explode('.', $p[2]);
            $field = Computed::of($kind)[$names[0]] ?? $kind->fields()[ltrim($names[0], '=')];
            $meaning = $field->meaning;
            foreach (array_slice($names, 1) as $other) {
                $of = EntityKind::from((string) $field->to);
                $field = $of->fields()[$other];
                $meaning = "{$field->meaning} Of the {$of->entry()->noun}.";
            }
            $unit = match ($field->unit) {
                'minutes' => isset($p[4]) ? '' : ' In hours.',
                'percent' => ' 0 to 1.',
                default => '',
            };
            $named[$p[0]] = new Property($p[0], $p[4] ?? EdmType::of($field), $p[1], $meaning.$unit, ($p[3] ?? false) || $field->nullable);
        }

        return $named;
    }

    /**
     * @param  list<array{string, string, string, string, bool, string}>  $list
     * @return array<string, Navigation>
     */
    private static function navigations(array $list): array
    {
        $named = [];
        foreach ($list as $n) {
            $named[$n[0]] = new Navigation(...$n);
        }

        return $named;
    }
}

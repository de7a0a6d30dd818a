<?php

declare(strict_types=1);

namespace App\OData\Sets;

use App\OData\EdmType;
use App\OData\EntitySet;
use App\OData\Model;
use Reihe\Core\Plan\EntityKind;

/** Sets of the plan: projects and what is in them. */
final class PlanSets
{
    public static function projects(): EntitySet
    {
        return EntitySet::stored('Projects', 'Project',
            Model::LIVE.' p JOIN branches b ON b.id = p.branch_id LEFT JOIN project_dates d ON d.project_id = p.id
                JOIN calendars k ON k.id = p.calendar_id', 'p.branch_id', 'One schedule each.', Described::whole(EntityKind::Project, [
                ['Id', 'p.uid'],
                ['Key', 'p.`key`', 'key'],
                ['Name', 'p.name', 'name'],
                ['BranchId', 'b.uid', 'branch'],
                ['Branch', 'b.name', 'branch.name'],
                ['CalendarId', 'k.uid', 'calendar'],
                ['Kept', 'p.kept', 'kept'],
                ['Lead', 'p.lead', 'lead'],
                ['PlannedStart', 'p.start', '=start'],
                ['StatusDate', 'p.status_date', 'statusDate'],
                ['Deadline', 'p.deadline', 'deadline'],
                ['Start', 'd.start', 'start', true],
                ['Finish', 'd.finish', 'finish'],
                ['TotalFloatHours', 'd.total_float', 'totalFloat'],
                ['Critical', 'COALESCE(d.critical, 0)', 'critical'],
                ['Progress', 'IF(COALESCE(d.planned, 0) > 0, d.done / d.planned / 1e5, COALESCE(d.finished, 0))', 'percent'],
                ['DeadlineMarginHours', 'd.margin', 'margin'],
                ['WorkHours', 'COALESCE(d.work, 0)', 'work'],
                ['Cost', 'COALESCE(d.cost, 0)', 'totalCost'],
                ['FloatMeasure', 'p.float_measure', 'floatMeasure'],
                ['CriticalBy', 'p.critical_by', 'criticalBy'],
                ['Archived', 'p.archived', 'archived'],
                ['Revision', 'p.revision', 'revision'],
            ], 'p', ['home', 'madeFrom', 'colour']),
            Described::navigations([['BranchOfProject', 'Branches', 'BranchId', 'Id', false, 'Projects'],
                ['Calendar', 'Calendars', 'CalendarId', 'Id', false, 'Projects'],
                ['WbsElements', 'WbsElements', 'Id', 'ProjectId', true, 'Project'],
                ['Baselines', 'Baselines', 'Id', 'ProjectId', true, 'Project'],
                ['ChangeSets', 'ChangeSetProjects', 'Id', 'ProjectId', true, 'Project'],
                ['HandoversGiven', 'Handovers', 'Id', 'GiverProjectId', true, 'GiverProject'],
                ['HandoversTaken', 'Handovers', 'Id', 'TakerProjectId', true, 'TakerProject'],
                ['Activities', 'Activities', 'Id', 'ProjectId', true, 'Project'],
                ['Codes', 'ProjectCoding', 'Id', 'ProjectId', true, 'Project'],
                ['OwnValues', 'ProjectOwnValues', 'Id', 'ProjectId', true, 'Project'],
                ...KindSets::on(EntityKind::Project)]));
    }

    public static function wbs(): EntitySet
    {
        return EntitySet::stored('WbsElements', 'WbsElement', 'wbs_elements w JOIN '.Model::LIVE.' p ON p.id = w.project_id
                LEFT JOIN wbs_elements u ON u.id = w.parent_id LEFT JOIN wbs_dates d ON d.wbs_id = w.id', 'p.branch_id',
            'The structure of projects, with what its activities add up to.', Described::whole(EntityKind::Wbs, [
                ['Id', 'w.uid'],
                ['ProjectId', 'p.uid', 'project'],
                ['ParentId', 'u.uid', 'parent'],
                ['Code', 'w.code', 'code'],
                ['Name', 'w.name', 'name'],
                ['Position', 'w.position', 'position'],
                ['Deadline', 'w.deadline', 'deadline'],
                ['Start', 'd.start', 'start', true],
                ['Finish', 'd.finish', 'finish'],
                ['TotalFloatHours', 'd.total_float', 'totalFloat'],
                ['Critical', 'COALESCE(d.critical, 0)', 'critical'],
                ['Progress', 'IF(COALESCE(d.planned, 0) > 0, d.done / d.planned / 1e5, COALESCE(d.finished, 0))', 'percent'],
                ['DeadlineMarginHours', 'd.margin', 'margin'],
                ['WorkHours', 'COALESCE(d.work, 0)', 'work'],
                ['Cost', 'COALESCE(d.cost, 0)', 'totalCost'],
            ], 'w', []), Described::navigations([['Project', 'Projects', 'ProjectId', 'Id', false, 'WbsElements'],
                ['Parent', 'WbsElements', 'ParentId', 'Id', false, 'Children'],
                ['Children', 'WbsElements', 'Id', 'ParentId', true, 'Parent'],
                ['Activities', 'Activities', 'Id', 'WbsId', true, 'Wbs'],
                ...KindSets::on(EntityKind::Wbs)]));
    }

    public static function activities(): EntitySet
    {
        return EntitySet::stored('Activities', 'Activity', 'activities a JOIN '.Model::LIVE.' p ON p.id = a.project_id LEFT
            JOIN wbs_elements w ON w.id = a.wbs_id LEFT JOIN activity_dates d ON d.activity_id = a.id
            LEFT JOIN outside_dates o ON o.activity_id = a.id LEFT JOIN calendars k ON k.id = a.calendar_id
            LEFT JOIN (SELECT activity_id, CAST(SUM(actual_work) AS SIGNED) AS actual_work,
                CAST(SUM(remaining_work) AS SIGNED) AS remaining_work, CAST(SUM(cost) AS SIGNED) AS cost FROM assignments
                GROUP BY activity_id) s ON s.activity_id = a.id LEFT JOIN measures m ON m.activity_id = a.id
            LEFT JOIN baselines bl ON bl.project_uid = p.uid AND bl.current = 1 LEFT
                JOIN baseline_rows br ON br.baseline_id = bl.id AND br.kind = \'activity\' AND br.uid = a.uid', 'p.branch_id',
            'Pieces of work with their dates and floats.', Described::whole(EntityKind::Activity, [
                ['Id', 'a.uid'],
                ['ProjectId', 'p.uid', 'project'],
                ['ProjectKey', 'p.`key`', 'project.key'],
                ['Code', 'a.code', 'code'],
                ['Name', 'a.name', 'name'],
                ['WbsId', 'w.uid', 'wbs'],
                ['WbsCode', 'w.code', 'wbs.code', true],
                ['WbsName', 'w.name', 'wbs.name', true],
                ['Kind', 'a.kind', 'kind'],
                ['Duration', 'a.duration', 'duration', false, EdmType::Span],
                ['DurationHours', 'a.duration', 'duration'],
                ['RemainingHours', 'a.remaining', 'remaining'],
                ['Estimate', 'a.estimate', 'estimate'],
                ['CalendarId', 'k.uid', 'calendar'],
                ['Start', 'd.start', 'start', true],
                ['Finish', 'd.finish', 'finish', true],
                ['LateStart', 'd.late_start', 'lateStart'],
                ['LateFinish', 'd.late_finish', 'lateFinish'],
                ['ActualStart', 'a.actual_start', 'actualStart'],
                ['ActualFinish', 'a.actual_finish', 'actualFinish'],
                ['Deadline', 'a.deadline', 'deadline'],
                ['Constraint', 'a.constraint1_kind', 'constraints.kind', true],
                ['ConstraintDate', 'a.constraint1_date', 'constraints.date', true],
                ['SecondConstraint', 'a.constraint2_kind', 'constraints.kind', true],
                ['SecondConstraintDate', 'a.constraint2_date', 'constraints.date', true],
                ['TotalFloatHours', 'd.total_float', 'totalFloat'],
                ['FreeFloatHours', 'd.free_float', 'freeFloat'],
                ['Critical', 'COALESCE(d.critical, 0)', 'critical'],
                ['NearCritical', 'COALESCE(d.near_critical, 0)', 'nearCritical'],
                ['Progress', 'COALESCE(d.percent, 0) / 1e5', 'percent'],
                ['ProgressBy', "COALESCE(m.percent_by, 'duration')", 'percentBy'],
                ['ActualWorkHours', 's.actual_work', 'actualWork'],
                ['RemainingWorkHours', 's.remaining_work', 'remainingWork'],
                ['Cost', 's.cost', 'cost'],
                ['Source', 'o.source', 'source'],
                ['AsOf', 'o.as_of', 'asOf'],
                ['BaselineStart', 'br.start', 'baselineStart'],
                ['BaselineFinish', 'br.finish', 'baselineFinish'],
            ], 'a', ['position', 'suspend', 'physicalPercent', 'outsideStart', 'outsideFinish']), Described::navigations([
                ['Project', 'Projects', 'ProjectId', 'Id', false, 'Activities'],
                ['Wbs', 'WbsElements', 'WbsId', 'Id', false, 'Activities'],
                ['Calendar', 'Calendars', 'CalendarId', 'Id', false, 'Activities'],
                ['HandoversGiven', 'Handovers', 'Id', 'GiverId', true, 'Giver'],
                ['HandoversTaken', 'Handovers', 'Id', 'TakerId', true, 'Taker'],
                ['Baselines', 'BaselineActivities', 'Id', 'ActivityId', true, 'Activity'],
                ['Successors', 'Links', 'Id', 'PredecessorId', true, 'Predecessor'],
                ['Predecessors', 'Links', 'Id', 'SuccessorId', true, 'Successor'],
                ...KindSets::on(EntityKind::Activity),
                ['Codes', 'ActivityCoding', 'Id', 'ActivityId', true, 'Activity'],
                ['OwnValues', 'ActivityOwnValues', 'Id', 'ActivityId', true, 'Activity'],
            ]));
    }

    public static function links(): EntitySet
    {
        return EntitySet::stored('Links', 'Link', 'links l JOIN activities f ON f.id = l.from_id JOIN activities t ON t.id = l.to_id
            JOIN '.Model::LIVE.' p ON p.id = l.to_project_id JOIN projects q ON q.id = l.from_project_id
            LEFT JOIN link_dates d ON d.link_id = l.id LEFT JOIN agreements g ON g.link_id = l.id LEFT
                JOIN handover_dates h ON h.link_id = l.id', 'p.branch_id',
            'Dependencies between activities.', Described::properties(EntityKind::Link, [
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
            ]), Described::navigations([
                ['Predecessor', 'Activities', 'PredecessorId', 'Id', false, 'Successors'],
                ['Successor', 'Activities', 'SuccessorId', 'Id', false, 'Predecessors'],
            ]), 'q.branch_id');
    }

    /** Links between projects, with what was agreed about them; the same links are in Links. */
    public static function handovers(): EntitySet
    {
        return EntitySet::stored('Handovers', 'Handover', 'links l JOIN activities f ON f.id = l.from_id JOIN activities t ON t.id = l.to_id
            JOIN '.Model::LIVE.' p ON p.id = l.to_project_id AND l.handover = 1 JOIN projects q ON q.id = l.from_project_id
            LEFT JOIN agreements g ON g.link_id = l.id LEFT JOIN handover_dates h ON h.link_id = l.id', 'p.branch_id',
            'Links between projects, with what was agreed about them.', Described::properties(EntityKind::Link, [
                ['Id', 'l.uid'],
                ['GiverId', 'f.uid', 'from'],
                ['TakerId', 't.uid', 'to'],
                ['GiverProjectId', 'q.uid', 'from.project'],
                ['TakerProjectId', 'p.uid', 'to.project'],
                ['AgreedDate', 'g.agreed', 'agreed'],
                ['Forecast', 'h.forecast', 'forecast'],
                ['MarginHours', 'h.margin', 'handoverMargin'],
                ['State', 'h.state', 'state'],
                ['GiverOwner', 'g.giver_owner', 'giverOwner'],
                ['TakerOwner', 'g.taker_owner', 'takerOwner'],
                ['Note', 'g.note', 'note'],
            ]), Described::navigations([
                ['Giver', 'Activities', 'GiverId', 'Id', false, 'HandoversGiven'],
                ['Taker', 'Activities', 'TakerId', 'Id', false, 'HandoversTaken'],
                ['GiverProject', 'Projects', 'GiverProjectId', 'Id', false, 'HandoversGiven'],
                ['TakerProject', 'Projects', 'TakerProjectId', 'Id', false, 'HandoversTaken'],
            ]), 'q.branch_id');
    }
}

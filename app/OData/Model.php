<?php

declare(strict_types=1);

namespace App\OData;

/** The entity sets of the feed. Names are plain; every property says what it is. */
final class Model
{
    public const NAMESPACE = 'Reihe';

    /** @return array<string, EntitySet> */
    public static function sets(): array
    {
        return ['Projects' => self::projects(), 'Activities' => self::activities(), 'Links' => self::links()];
    }

    public static function set(string $name): EntitySet
    {
        return self::sets()[$name] ?? throw new ODataError(404, "There is no entity set “{$name}”.", $name);
    }

    private static function projects(): EntitySet
    {
        return new EntitySet('Projects', 'Project', 'projects p JOIN branches b ON b.id = p.branch_id LEFT JOIN project_dates d ON d.project_id = p.id', 'p.branch_id', 'One schedule each.', self::named([
            ['Id', EdmType::Text, 'p.uid', 'Stable identifier.', false],
            ['Key', EdmType::Text, 'p.`key`', 'Project key, unique in the enterprise.', false],
            ['Name', EdmType::Text, 'p.name', 'Name.', false],
            ['Branch', EdmType::Text, 'b.name', 'Branch of the hierarchy that the project hangs on.', false],
            ['Lead', EdmType::Text, 'p.lead', 'Person who leads the project.'],
            ['PlannedStart', EdmType::Moment, 'p.start', 'Start typed for the project, enterprise wall clock.', false],
            ['StatusDate', EdmType::Moment, 'p.status_date', 'Moment up to which progress is known.'],
            ['Deadline', EdmType::Moment, 'p.deadline', 'Date that must be met.'],
            ['Start', EdmType::Moment, 'd.start', 'Earliest start of its activities, working schedule.'],
            ['Finish', EdmType::Moment, 'd.finish', 'Latest finish of its activities, working schedule.'],
            ['TotalFloatHours', EdmType::Hours, 'd.total_float', 'Least total float of its activities in working hours.'],
            ['Critical', EdmType::Bool, 'COALESCE(d.critical, 0)', 'Some activity is critical.', false],
            ['Progress', EdmType::Ratio, 'IF(COALESCE(d.planned, 0) > 0, d.done / d.planned / 100000, COALESCE(d.finished, 0))', 'Share done, 0 to 1, weighted by planned work, by duration where none is planned.', false],
            ['DeadlineMarginHours', EdmType::Hours, 'd.margin', 'Working hours from the finish to the deadline, negative when missed.'],
            ['WorkHours', EdmType::Hours, 'COALESCE(d.work, 0)', 'Planned work in hours.', false],
            ['Revision', EdmType::Int, 'p.revision', 'Counts the change sets applied to the project.', false],
        ]), self::navigations([['Activities', 'Activities', 'Id', 'ProjectId', true, 'Project']]));
    }

    private static function activities(): EntitySet
    {
        return new EntitySet('Activities', 'Activity', 'activities a JOIN projects p ON p.id = a.project_id LEFT JOIN wbs_elements w ON w.id = a.wbs_id LEFT JOIN activity_dates d ON d.activity_id = a.id LEFT JOIN baselines bl ON bl.project_uid = p.uid AND bl.current = 1 LEFT JOIN baseline_rows br ON br.baseline_id = bl.id AND br.kind = \'activity\' AND br.uid = a.uid', 'p.branch_id',
            'Pieces of work with their dates and floats.', self::named([
                ['Id', EdmType::Text, 'a.uid', 'Stable identifier.', false],
                ['ProjectId', EdmType::Text, 'p.uid', 'Project it belongs to.', false],
                ['ProjectKey', EdmType::Text, 'p.`key`', 'Key of that project.', false],
                ['Code', EdmType::Text, 'a.code', 'Activity code, unique in its project.', false],
                ['Name', EdmType::Text, 'a.name', 'Name.', false],
                ['WbsCode', EdmType::Text, 'w.code', 'Code of the WBS element above it.'],
                ['WbsName', EdmType::Text, 'w.name', 'Name of the WBS element above it.'],
                ['Kind', EdmType::Text, 'a.kind', 'task, start-milestone, finish-milestone or hammock.', false],
                ['Duration', EdmType::Span, 'a.duration', 'Planned duration as working time.', false],
                ['DurationHours', EdmType::Hours, 'a.duration', 'Planned duration in working hours.', false],
                ['Estimate', EdmType::Bool, 'a.estimate', 'The duration is a first guess.', false],
                ['Start', EdmType::Moment, 'd.start', 'Early or actual start, enterprise wall clock.'],
                ['Finish', EdmType::Moment, 'd.finish', 'Early or actual finish.'],
                ['LateStart', EdmType::Moment, 'd.late_start', 'Late start.'],
                ['LateFinish', EdmType::Moment, 'd.late_finish', 'Late finish.'],
                ['ActualStart', EdmType::Moment, 'a.actual_start', 'Actual start.'],
                ['ActualFinish', EdmType::Moment, 'a.actual_finish', 'Actual finish.'],
                ['Deadline', EdmType::Moment, 'a.deadline', 'Date that must be met.'],
                ['TotalFloatHours', EdmType::Hours, 'd.total_float', 'Total float in working hours.'],
                ['FreeFloatHours', EdmType::Hours, 'd.free_float', 'Free float in working hours.'],
                ['Critical', EdmType::Bool, 'COALESCE(d.critical, 0)', 'Critical.', false],
                ['NearCritical', EdmType::Bool, 'COALESCE(d.near_critical, 0)', 'Near-critical.', false],
                ['Progress', EdmType::Ratio, 'COALESCE(d.percent, 0) / 100000', 'Share done in the activity’s own measure, 0 to 1.', false],
                ['BaselineStart', EdmType::Moment, 'br.start', 'Start in the current baseline of the project.'],
                ['BaselineFinish', EdmType::Moment, 'br.finish', 'Finish in the current baseline of the project.'],
            ]), self::navigations([
                ['Project', 'Projects', 'ProjectId', 'Id', false, 'Activities'],
                ['Successors', 'Links', 'Id', 'PredecessorId', true, 'Predecessor'],
                ['Predecessors', 'Links', 'Id', 'SuccessorId', true, 'Successor'],
            ]));
    }

    private static function links(): EntitySet
    {
        return new EntitySet('Links', 'Link', 'links l JOIN activities f ON f.id = l.from_id JOIN activities t ON t.id = l.to_id JOIN projects p ON p.id = l.to_project_id JOIN projects q ON q.id = l.from_project_id LEFT JOIN link_dates d ON d.link_id = l.id LEFT JOIN agreements g ON g.link_id = l.id LEFT JOIN handover_dates h ON h.link_id = l.id', 'p.branch_id',
            'Dependencies between activities.', self::named([
                ['Id', EdmType::Text, 'l.uid', 'Stable identifier.', false],
                ['PredecessorId', EdmType::Text, 'f.uid', 'Activity the link leaves.', false],
                ['SuccessorId', EdmType::Text, 't.uid', 'Activity the link leads into.', false],
                ['Type', EdmType::Text, 'l.type', 'FS, SS, FF or SF.', false],
                ['Lag', EdmType::Span, 'l.lag', 'Lag as working time, negative for a lead.', false],
                ['LagHours', EdmType::Hours, 'l.lag', 'Lag in working hours.', false],
                ['Handover', EdmType::Bool, 'l.handover', 'The ends lie in two projects.', false],
                ['Driving', EdmType::Bool, 'COALESCE(d.driving, 0)', 'It sets the date of its successor.', false],
                ['AgreedDate', EdmType::Moment, 'g.agreed', 'Promised date of a handover.'],
                ['Forecast', EdmType::Moment, 'h.forecast', 'What a handover asks of its taker now.'],
                ['MarginHours', EdmType::Hours, 'h.margin', 'Working hours of the taker from forecast to agreed date, negative when late.'],
                ['HandoverState', EdmType::Text, 'h.state', 'open, at-risk, late or met; empty inside a project.'],
                ['FloatHours', EdmType::Hours, 'd.link_float', 'Working hours by which the predecessor may slip before this link moves its successor.'],
            ]), self::navigations([
                ['Predecessor', 'Activities', 'PredecessorId', 'Id', false, 'Successors'],
                ['Successor', 'Activities', 'SuccessorId', 'Id', false, 'Predecessors'],
            ]), 'q.branch_id');
    }

    /**
     * @param  list<array{0: string, 1: EdmType, 2: string, 3: string, 4?: bool}>  $list
     * @return array<string, Property>
     */
    private static function named(array $list): array
    {
        $named = [];
        foreach ($list as $p) {
            $named[$p[0]] = new Property($p[0], $p[1], $p[2], $p[3], $p[4] ?? true);
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

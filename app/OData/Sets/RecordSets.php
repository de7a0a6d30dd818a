<?php

declare(strict_types=1);

namespace App\OData\Sets;

use App\OData\EdmType;
use App\OData\EntitySet;
use App\OData\Model;

/** Sets of what was: baselines and change sets. */
final class RecordSets
{
    public static function baselines(): EntitySet
    {
        return EntitySet::stored('Baselines', 'Baseline', 'baselines bl JOIN '.Model::LIVE.' p ON p.uid = bl.project_uid
                LEFT JOIN users v ON v.id = bl.author_id', 'p.branch_id', 'Frozen dates of projects.', Described::other([
            ['Id', EdmType::Text, 'bl.uid', 'Stable identifier.'],
            ['ProjectId', EdmType::Text, 'p.uid', 'Project whose dates they are.'],
            ['Name', EdmType::Text, 'bl.name', 'Name.'],
            ['Taken', EdmType::Moment, 'bl.taken', 'When it was taken.'],
            ['Author', EdmType::Text, 'v.name', 'Who took it.', true],
            ['Current', EdmType::Bool, 'bl.current', 'It is the one that the project is compared with.'],
        ]), Described::navigations([['Project', 'Projects', 'ProjectId', 'Id', false, 'Baselines'],
            ['Activities', 'BaselineActivities', 'Id', 'BaselineId', true, 'Baseline']]));
    }

    public static function baselineActivities(): EntitySet
    {
        return EntitySet::stored('BaselineActivities', 'BaselineActivity', "baseline_rows r JOIN baselines bl ON bl.id = r.baseline_id
                AND r.kind = 'activity' JOIN ".Model::LIVE.' p ON p.uid = bl.project_uid', 'p.branch_id',
            'Activities as they were when a baseline was taken; also those that are gone since.', Described::other([
                ['Id', EdmType::Text, "CONCAT(bl.uid, '@', r.uid)", 'Stable identifier.'],
                ['BaselineId', EdmType::Text, 'bl.uid', 'Baseline.'],
                ['ActivityId', EdmType::Text, 'r.uid', 'Activity.'],
                ['Code', EdmType::Text, 'r.code', 'Activity code then.'],
                ['Name', EdmType::Text, 'r.name', 'Name then.'],
                ['Start', EdmType::Moment, 'r.start', 'Start then.'],
                ['Finish', EdmType::Moment, 'r.finish', 'Finish then.'],
                ['DurationHours', EdmType::Hours, 'ROUND(r.duration / 60, 4)', 'Duration then. In hours.'],
                ['WorkHours', EdmType::Hours, 'ROUND(r.work / 60, 4)', 'Planned work then. In hours.'],
                ['Cost', EdmType::Int, 'r.cost', 'Cost then. In the smallest unit of the currency.'],
            ]), Described::navigations([['Baseline', 'Baselines', 'BaselineId', 'Id', false, 'Activities'],
                ['Activity', 'Activities', 'ActivityId', 'Id', false, 'Baselines']]));
    }

    /** Those that touch a project within reach; the reason stays out where something beyond that was touched too: it may name it. */
    public static function changeSets(): EntitySet
    {
        $hidden = 'EXISTS (SELECT 1 FROM change_set_projects y LEFT JOIN projects z ON z.uid = y.project_uid AND {within:z.branch_id}
            WHERE y.change_set_id = c.id AND z.id IS NULL)';

        return EntitySet::stored('ChangeSets', 'ChangeSet', "change_sets c LEFT JOIN users v ON v.id = c.author_id JOIN
            (SELECT DISTINCT t.change_set_id FROM change_set_projects t JOIN projects p ON p.uid = t.project_uid AND {within:p.branch_id}) t
                ON t.change_set_id = c.id AND c.state IN ('applied', 'undone')", null,
            'What was changed, by whom and why.', Described::other([
                ['Id', EdmType::Text, 'c.uid', 'Stable identifier.'],
                ['Author', EdmType::Text, 'v.name', 'Who made it.', true],
                ['Source', EdmType::Text, 'c.source', 'Where it came from, like edit, file or progress.'],
                ['Reason', EdmType::Text, "IF({$hidden}, '', c.reason)", 'Why; empty where it touched something out of reach too.'],
                ['State', EdmType::Text, 'c.state', 'applied or undone.'],
                ['Operations', EdmType::Int, 'c.operation_count', 'How many objects were made, changed or deleted.'],
                ['Applied', EdmType::Stamp, "TIMESTAMPDIFF(MINUTE, '2000-01-01', COALESCE(c.applied_at, c.created_at))",
                    'When it was carried out, in UTC.'],
            ]), Described::navigations([['Projects', 'ChangeSetProjects', 'Id', 'ChangeSetId', true, 'ChangeSet']]));
    }

    public static function changeSetProjects(): EntitySet
    {
        return EntitySet::stored('ChangeSetProjects', 'ChangeSetProject', "change_set_projects t JOIN change_sets c
                ON c.id = t.change_set_id AND c.state IN ('applied',
                    'undone') JOIN ".Model::LIVE.' p ON p.uid = t.project_uid', 'p.branch_id',
            'Which projects a change set touched.', Described::other([
                ['Id', EdmType::Text, "CONCAT(c.uid, '@', p.uid)", 'Stable identifier.'],
                ['ChangeSetId', EdmType::Text, 'c.uid', 'Change set.'],
                ['ProjectId', EdmType::Text, 'p.uid', 'Project.'],
                ['Revision', EdmType::Int, 't.revision', 'Revision of the project that it made.'],
            ]), Described::navigations([['ChangeSet', 'ChangeSets', 'ChangeSetId', 'Id', false, 'Projects'],
                ['Project', 'Projects', 'ProjectId', 'Id', false, 'ChangeSets']]));
    }
}

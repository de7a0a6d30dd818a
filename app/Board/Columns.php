<?php

declare(strict_types=1);

namespace App\Board;

/** What rows of a board hold, in order; moments are minutes since 2000-01-01, durations and floats working minutes. */
final class Columns
{
    public const PROJECT = ['uid', 'key', 'name', 'branch', 'calendar', 'plannedStart', 'statusDate', 'deadline', 'floatMeasure',
        'criticalBy', 'criticalDays', 'nearCriticalDays', 'outOfSequence', 'lagCalendar', 'lead', 'colour', 'kept', 'archived',
        'levelScheme', 'madeFrom', 'revision',
        'start', 'finish', 'duration', 'totalFloat', 'critical', 'planned', 'done', 'finished', 'margin', 'work', 'cost'];

    public const WBS = ['uid', 'project', 'parent', 'position', 'code', 'name', 'deadline', 'start', 'finish', 'duration', 'totalFloat',
        'critical', 'planned', 'done', 'finished', 'margin', 'work', 'cost'];

    public const ACTIVITY = ['uid', 'project', 'wbs', 'position', 'code', 'name', 'kind', 'duration', 'estimate', 'calendar',
        'constraint1Kind', 'constraint1Date', 'constraint2Kind', 'constraint2Date', 'deadline',
        'actualStart', 'actualFinish', 'remaining', 'resume', 'start', 'finish', 'lateStart', 'lateFinish', 'totalFloat', 'freeFloat',
        'critical', 'nearCritical', 'percent'];

    /** Work and progress of the activities that have more than dates. */
    public const EFFORT = ['uid', 'percentBy', 'physicalPercent', 'checklist', 'actualWork', 'remainingWork', 'cost', 'suspend',
        'assignment'];

    public const LINK = ['uid', 'from', 'to', 'type', 'lag', 'lagCalendar', 'handover', 'float', 'driving'];

    /** Where the dates of activities of outside projects come from. */
    public const OUTSIDE = ['uid', 'source', 'asOf'];

    /** Agreement and standing of handovers. */
    public const HANDOVER = ['uid', 'agreed', 'giverOwner', 'takerOwner', 'note', 'forecast', 'margin', 'state'];

    public const FAR = ['uid', 'project', 'code', 'name', 'start', 'finish', 'kind', 'minutesPerDay'];

    /**
     * Rows → a list per column, which is small on the wire.
     *
     * @param  list<string>  $names
     * @param  list<list<mixed>>  $rows
     * @return array<string, list<mixed>>
     */
    public static function of(array $names, array $rows): array
    {
        $columns = [];
        foreach ($names as $i => $name) {
            $columns[$name] = array_column($rows, $i);
        }

        return $columns;
    }
}

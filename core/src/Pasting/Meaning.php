<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/** What a column of a pasted table holds. */
enum Meaning: string
{
    case Ignore = 'ignore';

    /** number of the row, which predecessors may name */
    case Row = 'row';
    case Code = 'code';
    case Name = 'name';

    /** `1`, `1.1`, `1.1.2`: how deep the row lies */
    case Outline = 'outline';
    case Duration = 'duration';
    case Start = 'start';
    case Finish = 'finish';
    case Deadline = 'deadline';
    case ActualStart = 'actualStart';
    case ActualFinish = 'actualFinish';

    /** share that is done */
    case Progress = 'progress';
    case Remaining = 'remaining';
    case Cost = 'cost';
    case Predecessors = 'predecessors';
    case Successors = 'successors';
    case Remark = 'remark';

    /** names of headings that people give it; common practice without source */
    private const HEADINGS = [
        'row' => ['#', 'no', 'nr', 'row', 'line', 'id', 'number'],
        'code' => ['code', 'activity code', 'activity id', 'task id', 'key'],
        'name' => ['name', 'activity', 'task', 'title', 'description', 'activity name', 'task name', 'work', 'step', 'what'],
        'outline' => ['outline', 'wbs', 'outline number', 'level', 'wbs code'],
        'duration' => ['duration', 'days', 'dur', 'length', 'duration days', 'working days', 'estimate', 'how long'],
        'start' => ['start', 'begin', 'from', 'start date', 'begins'],
        'finish' => ['finish', 'end', 'until', 'finish date', 'end date', 'due', 'to', 'ends'],
        'deadline' => ['deadline', 'due date', 'no later than'],
        'actualStart' => ['actual start', 'started', 'began', 'started on'],
        'actualFinish' => ['actual finish', 'actual end', 'finished', 'ended', 'done on', 'completed on'],
        'progress' => ['progress', 'complete', 'percent complete', 'done', 'percent', 'status percent', 'share done'],
        'remaining' => ['remaining', 'remaining duration', 'left', 'to go', 'remaining days'],
        'cost' => ['cost', 'costs', 'price'],
        'predecessors' => ['predecessors', 'predecessor', 'depends on', 'after', 'dependencies', 'dependency', 'pred', 'needs',
            'waits for'],
        'successors' => ['successors', 'successor', 'before', 'then', 'succ', 'gives to'],
        'remark' => ['remark', 'remarks', 'note', 'notes', 'comment', 'comments'],
    ];

    /** What a heading says its column holds; null where that cannot be told. */
    public static function ofHeading(string $heading): ?self
    {
        $plain = trim((string) preg_replace('/[^\p{L}\p{N}#]+/u', ' ', mb_strtolower($heading)));
        foreach (self::HEADINGS as $meaning => $names) {
            if (in_array($plain, $names, true)) {
                return self::from($meaning);
            }
        }

        return null;
    }
}

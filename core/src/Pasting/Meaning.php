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
}

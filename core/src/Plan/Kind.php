<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Kinds of activity. Start and finish milestone have no duration; a hammock spans between its links. */
enum Kind: string
{
    case Task = 'task';
    case StartMilestone = 'start-milestone';
    case FinishMilestone = 'finish-milestone';
    case Hammock = 'hammock';

    public function isMilestone(): bool
    {
        return $this === self::StartMilestone || $this === self::FinishMilestone;
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

/** What says who goes first where several want the same: of two the smaller value does; those of order come from lists. */
enum Criterion: string
{
    /** the place of the project in a list */
    case ProjectOrder = 'project-order';
    /** the place of its code in a code set */
    case CodeOrder = 'code-order';
    /** the date that it must meet: its own deadline, else that of what is above it */
    case Deadline = 'deadline';
    case LateFinish = 'late-finish';
    case LateStart = 'late-start';
    case TotalFloat = 'total-float';
    case EarlyStart = 'early-start';
    case Longest = 'longest';
    case Shortest = 'shortest';

    /** Made by somebody: the search keeps to it. All others are guesses at what is best, which it may leave. */
    public function isOrder(): bool
    {
        return $this === self::ProjectOrder || $this === self::CodeOrder;
    }
}

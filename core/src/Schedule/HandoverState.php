<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** How a handover stands. */
enum HandoverState: string
{
    case Open = 'open';
    case AtRisk = 'at-risk';
    case Late = 'late';
    case Met = 'met';
}

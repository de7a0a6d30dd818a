<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What the percent complete of an activity is measured by. */
enum PercentBy: string
{
    case Duration = 'duration';
    case Work = 'work';
    case Physical = 'physical';
}

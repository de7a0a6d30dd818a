<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** How a project tells critical activities. */
enum CriticalBy: string
{
    case Threshold = 'threshold';
    case LongestPath = 'longest-path';
}

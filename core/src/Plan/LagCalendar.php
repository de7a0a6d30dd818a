<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** The calendar that measures a lag. */
enum LagCalendar: string
{
    case Successor = 'successor';
    case Predecessor = 'predecessor';
    case Project = 'project';
    case Elapsed = 'elapsed';
}

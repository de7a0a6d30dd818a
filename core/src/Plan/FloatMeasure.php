<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** The end that a project's floats are measured to. */
enum FloatMeasure: string
{
    case OwnEnd = 'own-end';
    case PortfolioEnd = 'portfolio-end';
    case Deadline = 'deadline';
}

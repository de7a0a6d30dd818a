<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Which of duration, work and intensity stays where another one of them is changed. */
enum Keeps: string
{
    case Duration = 'duration';
    case Work = 'work';
    case Intensity = 'intensity';
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** How the work of an assignment lies over its time. */
enum Spread: string
{
    case Even = 'even';

    /** most at the beginning, falling evenly to nothing */
    case Front = 'front';

    /** nothing at the beginning, rising evenly */
    case Back = 'back';

    /** rising evenly to the middle, falling evenly after it */
    case Bell = 'bell';

    /** what is told for each week from the start on */
    case Hand = 'hand';
}

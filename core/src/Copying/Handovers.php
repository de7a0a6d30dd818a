<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

/** What becomes, in a copy, of links with projects that are not copied along. */
enum Handovers: string
{
    /** they wait for their other activity, as open ends */
    case Open = 'open';

    /** what it takes is tied to the same giver, where there is one of the same key and code; the rest is left open */
    case Tie = 'tie';
    case Drop = 'drop';
}

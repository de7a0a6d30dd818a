<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What remaining work does when it began before its predecessors allowed it. */
enum OutOfSequence: string
{
    /** remaining work waits for unfinished predecessors */
    case Waits = 'waits';
    /** FS and SS links are ignored once the work has started */
    case Continues = 'continues';
}

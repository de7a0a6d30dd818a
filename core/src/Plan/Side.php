<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** On which side of an activity something stands. */
enum Side: string
{
    case Predecessor = 'predecessor';
    case Successor = 'successor';
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

/** How an item of a proposal stands. */
enum ItemState: string
{
    case Open = 'o';
    case Accepted = 'a';
    case Rejected = 'r';
}

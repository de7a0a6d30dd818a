<?php

declare(strict_types=1);

namespace Reihe\Core\Baseline;

/** How a row stands against a baseline. */
enum Standing: string
{
    case Same = 'same';
    case Changed = 'changed';
    case Added = 'added';
    case Removed = 'removed';
}

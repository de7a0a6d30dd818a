<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What happens to an object when the one it refers to is deleted. */
enum OnDelete
{
    /** it is deleted too */
    case GoesAlong;
    /** the deletion is refused while it is there */
    case Refuses;
}

<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Owners;
use App\Access\Reach;

/** What a change makes for the enterprise belongs to somebody. */
final class OwnersKept implements Follower
{
    public function follow(Committed $change): void
    {
        Owners::keep($change->operations, Reach::of($change->by));
    }
}

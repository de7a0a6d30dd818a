<?php

declare(strict_types=1);

namespace App\Planning;

/** Something that follows from each change that is written. What it writes is written with the change or not at all. */
interface Follower
{
    public function follow(Committed $change): void;
}

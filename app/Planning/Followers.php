<?php

declare(strict_types=1);

namespace App\Planning;

/** All that follows from a change, in order; said once, where the application is put together. */
final readonly class Followers
{
    /** @param  list<Follower>  $followers */
    public function __construct(public array $followers)
    {
    }

    public function tell(Committed $change): void
    {
        foreach ($this->followers as $follower) {
            $follower->follow($change);
        }
    }
}

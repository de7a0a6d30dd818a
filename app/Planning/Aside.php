<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Schedule\Schedule;

/** What takes changes instead of the live plan, like a draft: nothing of the plan is written, nobody else's dates feel it. */
interface Aside
{
    /**
     * @param  bool  $write  else it is only tried
     *
     * @throws InvalidOperation
     */
    public function take(ChangeRequest $request, bool $write): Outcome;

    /**
     * Projects as they are there, with their dates.
     *
     * @param  list<int>  $projects  ids
     */
    public function schedule(array $projects): Schedule;
}

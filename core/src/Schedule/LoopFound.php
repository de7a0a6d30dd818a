<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\CoreException;

/** A circle of links. */
final class LoopFound extends CoreException
{
    /**
     * @param  list<string>  $chain  `KEY/CODE` of the activities in order, beginning with the smallest; the last one leads back to the first
     * @param  list<string>  $uids  the same as uids
     */
    public function __construct(public readonly array $chain, public readonly array $uids)
    {
        parent::__construct('links close a loop: '.implode(' → ', [...$chain, $chain[0]]));
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\CoreException;
use Reihe\Core\Plan\Names;

/** A circle of links. */
final class LoopFound extends CoreException
{
    /**
     * @param  list<string>  $chain `KEY/CODE` of the activities in order, beginning with the smallest; the last one leads back to the
     *     first
     * @param  list<string>  $uids  the same as uids
     */
    private function __construct(public readonly array $chain, public readonly array $uids)
    {
        parent::__construct('links close a loop: '.implode(' → ', [...$chain, $chain[0]]));
    }

    /** @param  list<string>  $uids  activities along the links, from any of them on */
    public static function along(array $uids, Names $names): self
    {
        $labels = array_map($names->label(...), $uids);
        $sorted = $labels;
        sort($sorted);
        $first = (int) array_search($sorted[0], $labels, true);

        return new self([...array_slice($labels, $first), ...array_slice($labels, 0, $first)],
            [...array_slice($uids, $first), ...array_slice($uids, 0, $first)]);
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

/** Where a fragment goes, how often, how its codes begin, and what its open ends are tied to. */
final readonly class InsertWish
{
    /**
     * @param  string|null  $wbs  element that it goes below; null for the top level
     * @param  string  $prefix  what takes the place of the fragment's key in codes; `{n}` for the number of the time
     * @param  int  $times  1 … 50
     * @param  array<string, string>  $ties  uid of an open end, or of an activity of the fragment and the side (`uid predecessor`) =>
     *     uid of an activity of the project
     */
    public function __construct(
        public string $project,
        public ?string $wbs,
        public string $prefix,
        public string $stem,
        public int $version,
        public int $times = 1,
        public array $ties = [],
    ) {
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Kept;

/** What is copied, and how. Progress never is. */
final readonly class CopyWish
{
    /** what a copy may have or not */
    public const PARTS = ['activities', 'codes', 'work', 'costs', 'constraints', 'deadlines', 'remarks', 'ownValues'];

    /**
     * @param  array<string, array{key: string, name: string}>  $projects  uid => key and name of the copy
     * @param  string  $branch  where the copies hang
     * @param  string  $stem  what uids of the copies follow from, with those of the originals
     * @param  int|null  $start  of the earliest of them; null leaves all dates as they are
     * @param  list<string>  $parts  of {@see PARTS}
     * @param  Handovers  $handovers  what becomes of links with projects that are not copied along
     * @param  array<string, string>  $giverKeys  key of a giver's project => key of the one that gives instead
     */
    public function __construct(
        public array $projects,
        public string $branch,
        public string $stem,
        public ?int $start = null,
        public Kept $kept = Kept::Here,
        public array $parts = self::PARTS,
        public Handovers $handovers = Handovers::Open,
        public array $giverKeys = [],
    ) {
        $keys = array_column($projects, 'key');
        if (array_unique($keys) !== $keys) {
            throw new InvalidField('key', 'is given twice');
        }
    }

    public function takes(string $part): bool
    {
        return in_array($part, $this->parts, true);
    }
}

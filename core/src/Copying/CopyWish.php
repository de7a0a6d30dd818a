<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Plan\CopyPart;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Kept;

/** What is copied, and how. Progress never is. */
final readonly class CopyWish
{
    /**
     * @param  array<string, array{key: string, name: string}>  $projects  uid => key and name of the copy
     * @param  string  $branch  where the copies hang
     * @param  string  $stem  what uids of the copies follow from, with those of the originals
     * @param  int|null  $start  of the earliest of them; null leaves all dates as they are
     * @param  list<string>|null  $parts  of {@see CopyPart::wishes()}; null for all of them
     * @param  Handovers  $handovers  what becomes of links with projects that are not copied along
     * @param  array<string, string>  $giverKeys  key of a giver's project => key of the one that gives instead
     */
    public function __construct(
        public array $projects,
        public string $branch,
        public string $stem,
        public ?int $start = null,
        public Kept $kept = Kept::Here,
        public ?array $parts = null,
        public Handovers $handovers = Handovers::Open,
        public array $giverKeys = [],
    ) {
        $keys = array_column($projects, 'key');
        if (array_unique($keys) !== $keys) {
            throw new InvalidField('key', 'is given twice');
        }
    }

    public function takes(?CopyPart $part): bool
    {
        return $part === null || ($part !== CopyPart::Never && ($this->parts === null || in_array($part->value, $this->parts, true)));
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

/** A column of rows that can be tested, grouped and sorted by. */
final readonly class Column
{
    /**
     * @param  string  $name  field of the catalogue, `code:` and the uid of a code set, or `own:` and the uid of an own field
     * @param  int|null  $scale  stored units in the unit that people type (minutes in an hour, minor units in a whole one); null for days,
     *     whose length each row tells
     * @param  list<string>  $words  what a choice may be
     * @param  array<string, string|null>  $parents  node of a tree => node above it
     */
    public function __construct(
        public string $name,
        public ValueKind $kind,
        public ?int $scale = 1,
        public array $words = [],
        public array $parents = [],
    ) {
    }

    /**
     * Nodes and everything below them.
     *
     * @param  list<string>  $nodes
     * @return list<string>
     */
    public function withBelow(array $nodes): array
    {
        $taken = array_fill_keys($nodes, true);
        $found = [];
        foreach ($this->parents as $node => $above) {
            for ($at = (string) $node; $at !== null; $at = $this->parents[$at] ?? null) {
                if (isset($taken[$at])) {
                    $found[] = (string) $node;

                    break;
                }
            }
        }

        return $found;
    }
}

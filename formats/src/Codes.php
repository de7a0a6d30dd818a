<?php

declare(strict_types=1);

namespace Reihe\Formats;

use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Uid;

/** Code sets and entries of a file, found by their keys; what is named without being described is made. */
final class Codes
{
    /** @var array<string, CodeSet> scope and key => set */
    private array $sets = [];

    /** @var array<string, CodeEntry> uid of the set and key => entry */
    private array $entries = [];

    public function add(CodeSet|CodeEntry $described): void
    {
        if ($described instanceof CodeSet) {
            $this->sets["{$described->scope->value} {$described->key}"] = $described;
        } else {
            $this->entries["{$described->codeSet} {$described->key}"] = $described;
        }
    }

    /**
     * The uid of an entry.
     *
     * @param  string  $set  its key
     * @param  string  $entry  its key
     *
     * @throws \Reihe\Core\Plan\InvalidField when there is none and none can be called that
     */
    public function entry(CodeScope $scope, string $set, string $entry): string
    {
        $of = $this->sets["{$scope->value} {$set}"] ??= CodeSet::read(Uid::of("codeSet:{$scope->value}:{$set}"),
            ['scope' => $scope->value, 'key' => $set, 'name' => $set, 'position' => (float) count($this->sets)]);

        return ($this->entries["{$of->uid} {$entry}"] ??= CodeEntry::read(Uid::of("entry:{$scope->value}:{$set}:{$entry}"),
            ['codeSet' => $of->uid, 'key' => $entry, 'name' => $entry, 'position' => (float) count($this->entries)]))->uid;
    }

    /** @return list<CodeSet|CodeEntry> */
    public function all(): array
    {
        return [...array_values($this->sets), ...array_values($this->entries)];
    }
}

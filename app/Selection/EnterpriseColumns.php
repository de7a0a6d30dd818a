<?php

declare(strict_types=1);

namespace App\Selection;

use App\Access\Reach;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Branch;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Selection\Column;
use Reihe\Core\Selection\ValueKind;

/** Columns that follow from what the enterprise has: the hierarchy as far as a user sees it, and code sets. */
final readonly class EnterpriseColumns
{
    public function __construct(public Plan $plan, private Reach $reach)
    {
    }

    public function branch(): Column
    {
        $seen = array_filter($this->plan->branches, fn (Branch $b): bool => $this->reach->branch($b->uid) !== null);
        $parents = array_map(static fn (Branch $b): ?string => isset($seen[$b->parent ?? '']) ? $b->parent : null, $seen);

        return new Column('branch', ValueKind::Tree, parents: self::inOrder($parents,
            array_map(static fn (Branch $b): float => $b->position,
                $seen)));
    }

    /** @return array<string, Column> by name */
    public function codes(CodeScope $scope): array
    {
        $columns = [];
        foreach ($this->sets($scope) as $set) {
            $entries = array_filter($this->plan->entries, static fn (CodeEntry $e): bool => $e->codeSet === $set->uid);
            $columns["code:{$set->uid}"] = new Column("code:{$set->uid}", ValueKind::Tree, parents: self::inOrder(
                array_map(static fn (CodeEntry $e): ?string => $e->parent, $entries),
                array_map(static fn (CodeEntry $e): float => $e->position, $entries)));
        }

        return $columns;
    }

    /** @return list<CodeSet> in order */
    public function sets(?CodeScope $scope = null): array
    {
        $sets = array_values(array_filter($this->plan->codeSets, static fn (CodeSet $s): bool => $scope === null || $s->scope === $scope));
        usort($sets, static fn (CodeSet $a, CodeSet $b): int => [$a->position, $a->uid] <=> [$b->position, $b->uid]);

        return $sets;
    }

    /** @return array<string, OwnField> by uid, in order */
    public function ownFields(CodeScope $scope): array
    {
        $fields = array_filter($this->plan->ownFields, static fn (OwnField $f): bool => $f->scope === $scope);
        uasort($fields, static fn (OwnField $a, OwnField $b): int => [$a->position, $a->uid] <=> [$b->position, $b->uid]);

        return $fields;
    }

    /** @return array<string, true> uids of entries that are retired */
    public function retired(): array
    {
        return array_map(static fn (): bool => true, array_filter($this->plan->entries, static fn (CodeEntry $e): bool => $e->retired));
    }

    /** @return array<string, int> calendar uid => minutes of its day */
    public function dayLengths(): array
    {
        return array_map(fn (Calendar $c): int => $c->dayLength($this->plan->calendars), $this->plan->calendars);
    }

    /**
     * @param  array<string, string|null>  $parents
     * @param  array<string, float>  $positions
     * @return array<string, string|null> the same, each node before what lies below it, those beside each other in order
     */
    private static function inOrder(array $parents, array $positions): array
    {
        $below = [];
        foreach ($parents as $node => $parent) {
            $below[$parent ?? ''][] = (string) $node;
        }
        $ordered = [];
        $walk = static function (string $above) use (&$walk, &$ordered, $below, $parents, $positions): void {
            $nodes = $below[$above] ?? [];
            usort($nodes, static fn (string $a, string $b): int => [$positions[$a], $a] <=> [$positions[$b], $b]);
            foreach ($nodes as $node) {
                $ordered[$node] = $parents[$node];
                $walk($node);
            }
        };
        $walk('');

        return $ordered;
    }
}

<?php

declare(strict_types=1);

namespace App\Planning;

use App\Planning\Tables\Table;
use Reihe\Core\Plan\EntityKind;

/** Row numbers of loaded objects, both ways. */
final class Ids
{
    private const MANY = 5000;

    /** @var array<string, array<string, int>> kind => uid => id */
    private array $ids = [];

    /** @var array<string, array<int, string>> kind => id => uid */
    private array $uids = [];

    public function set(EntityKind $kind, string $uid, int $id): void
    {
        $this->ids[$kind->value][$uid] = $id;
        $this->uids[$kind->value][$id] = $uid;
    }

    public function id(EntityKind $kind, string $uid): int
    {
        return $this->ids[$kind->value][$uid] ?? throw new \LogicException("{$kind->value} {$uid} has no row");
    }

    /**
     * Looks up rows that are not known yet.
     *
     * @param  list<string>  $uids
     */
    public function find(EntityKind $kind, array $uids): void
    {
        $missing = array_values(array_filter($uids, fn (string $uid): bool => ! isset($this->ids[$kind->value][$uid])));
        if (count($missing) > self::MANY) { // all of the table's at once is less work than thousands by name
            $this->all($kind);
            $missing = array_values(array_filter($missing, fn (string $uid): bool => ! isset($this->ids[$kind->value][$uid])));
        }
        foreach (array_chunk($missing, Rows::CHUNK) as $chunk) {
            foreach (Rows::all('SELECT uid, id FROM '.Table::of($kind)->name().' WHERE uid IN '.Rows::quoted($chunk)) as [$uid, $id]) {
                $this->set($kind, (string) $uid, (int) $id);
            }
        }
    }

    private function all(EntityKind $kind): void
    {
        foreach (Rows::all('SELECT uid, id FROM '.Table::of($kind)->name()) as [$uid, $id]) {
            $this->set($kind, (string) $uid, (int) $id);
        }
    }

    public function idOrNull(EntityKind $kind, ?string $uid): ?int
    {
        return $uid === null ? null : $this->id($kind, $uid);
    }

    public function has(EntityKind $kind, string $uid): bool
    {
        return isset($this->ids[$kind->value][$uid]);
    }

    public function uid(EntityKind $kind, int $id): string
    {
        return $this->uids[$kind->value][$id];
    }

    public function uidOrNull(EntityKind $kind, ?int $id): ?string
    {
        return $id === null ? null : $this->uids[$kind->value][$id];
    }
}

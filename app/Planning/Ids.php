<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use App\Planning\Tables\Table;
use Reihe\Core\Plan\EntityKind;

/** Row numbers of loaded objects, both ways. */
final class Ids
{
    public const MANY = 5000;

    /** from how many on all rows of a table are looked up instead of some by name; tests lower it */
    public static int $many = self::MANY;

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
     * Takes over rows that somebody else looked up; what is known already stays.
     *
     * @param  array<int, string>  $uids
     * @param  list<int>  $rows  ids in the same order
     */
    public function know(EntityKind $kind, array $uids, array $rows): void
    {
        $this->ids[$kind->value] = ($this->ids[$kind->value] ?? []) + array_combine($uids, $rows);
        $this->uids[$kind->value] = ($this->uids[$kind->value] ?? []) + array_combine($rows, $uids);
    }

    /**
     * @param  array<int, string>  $uids
     * @return list<int>|null their ids in the same order; null when some are not known
     */
    public function rows(EntityKind $kind, array $uids): ?array
    {
        $known = $this->ids[$kind->value] ?? [];
        $rows = [];
        foreach ($uids as $uid) {
            if (! isset($known[$uid])) {
                return null;
            }
            $rows[] = $known[$uid];
        }

        return $rows;
    }

    /**
     * Looks up rows that are not known yet.
     *
     * @param  list<string>  $uids
     */
    public function find(EntityKind $kind, array $uids): void
    {
        $missing = array_values(array_filter($uids, fn (string $uid): bool => ! isset($this->ids[$kind->value][$uid])));
        if (count($missing) > self::$many) { // all of the table's at once is less work than thousands by name
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

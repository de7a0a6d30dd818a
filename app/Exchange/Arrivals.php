<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Database\Rows;
use App\Planning\Tables\Table;
use Illuminate\Support\Str;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Uid;

/** What is made of a file, what it is called here, and what there is to say about it. */
final class Arrivals
{
    /** @var list<string> */
    public array $notes = [];

    /** @var array<string, string> uid in the file => uid here */
    public array $uids = [];

    /** @var list<Operation> */
    public array $operations = [];

    /** @var array<string, array<string, string>> kind => uid here => what the source calls it */
    public array $identities = [];

    /** @var array<string, array<array-key, string>> kind => what the source calls it => uid here of what is used for it as it is */
    public array $mapped = [];

    /** @var array<string, string> uid in the file => what it really says */
    public array $given = [];

    /** what is here already and is updated */
    public ?Known $known = null;

    /** What was here is used for something of the file. */
    public function map(EntityKind $kind, string $uid, string $here): void
    {
        $this->uids[$uid] = $here;
        $this->mapped[$kind->value][$this->foreign($uid)] = $here;
    }

    /** What the source calls it. */
    public function foreign(string $uid): string
    {
        return $this->given[$uid] ?? $uid;
    }

    /** @param  array<string, mixed>  $fields */
    public function create(EntityKind $kind, string $uid, array $fields): void
    {
        $this->reserve($kind, [$uid]);
        $this->operations[] = Operation::create($kind, $this->uids[$uid], $fields);
    }

    /**
     * Keeps the uids of the file where they are sound and free, else makes new ones.
     *
     * @param  list<array-key>  $uids
     */
    public function reserve(EntityKind $kind, array $uids): void
    {
        $taken = [];
        foreach (Rows::there(Table::of($kind)->name(), array_map(strval(...), $uids)) as $uid) {
            $taken[$uid] = true;
        }
        foreach ($uids as $uid) {
            $known = $this->known?->uid($kind, $this->foreign((string) $uid));
            $here = $known ?? (isset($taken[$uid]) || ! Uid::isSound((string) $uid) ? (string) Str::ulid() : (string) $uid);
            $this->uids[(string) $uid] = $here;
            $this->identities[$kind->value][$here] = $this->foreign((string) $uid); // its own, or made of its key, code or content
        }
    }
}

<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
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

    /** @var array<string, string> uid in the file => what it really says */
    public array $given = [];

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
        foreach (array_chunk($uids, 1000) as $chunk) {
            $taken += DB::table(Table::of($kind)->name())->whereIn('uid', array_map(strval(...), $chunk))->pluck('id', 'uid')->all();
        }
        foreach ($uids as $uid) {
            $here = isset($taken[$uid]) || ! Uid::isSound((string) $uid) ? (string) Str::ulid() : (string) $uid;
            $this->uids[(string) $uid] = $here;
            if (isset($this->given[$uid])) {
                $this->identities[$kind->value][$here] = $this->given[$uid];
            }
        }
    }
}

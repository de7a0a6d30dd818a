<?php

declare(strict_types=1);

namespace App\Planning;

use App\Models\ChangeSet;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;

/**
 * What other systems call our objects: source, kind and foreign id lead to a uid. Those of objects that are gone stay, as an undo brings
 * them back.
 */
final class Identities
{
    /**
     * Keeps what the source of a proposal calls the objects that were made of it.
     *
     * @param  list<Operation>  $applied
     */
    public static function keep(?ChangeSet $proposal, array $applied): void
    {
        $known = $proposal->identities ?? [];
        if ($proposal?->exchanged_with === null || $known === []) {
            return;
        }
        $rows = [];
        foreach ($applied as $o) {
            $foreign = $known[$o->kind->value][$o->uid] ?? null;
            if ($o->verb === Verb::Create && $foreign !== null) {
                $rows[] = ['source' => $proposal->exchanged_with, 'kind' => $o->kind->value, 'foreign_id' => mb_substr($foreign, 0, 255),
                    'uid' => $o->uid];
            }
        }
        foreach (array_chunk($rows, Rows::CHUNK) as $chunk) {
            DB::table('external_identities')->upsert($chunk, ['source', 'kind', 'foreign_id'], ['uid']);
        }
    }

    /** @return list<array{source: string, id: string}> what other systems call an object */
    public static function of(EntityKind $kind, string $uid): array
    {
        /** @var list<array{source: string, id: string}> */
        return DB::table('external_identities')->where('kind', $kind->value)->where('uid', $uid)->orderBy('source')
            ->get(['source', 'foreign_id'])
            ->map(static fn (object $r): array => ['source' => $r->source, 'id' => $r->foreign_id])->all();
    }
}

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
    private const COLUMNS = ['source', 'kind', 'foreign_id', 'uid', 'told'];

    /**
     * Keeps what the source of a proposal calls the objects that were made or changed by it, and what it said of them.
     *
     * @param  list<Operation>  $applied
     * @param  bool  $isPart  the proposal has more
     */
    public static function keep(?ChangeSet $proposal, array $applied, bool $isPart): void
    {
        $known = $proposal->identities ?? [];
        if ($proposal?->exchanged_with === null || $known === []) {
            return;
        }
        $there = $open = $made = $rows = [];
        foreach ($applied as $o) {
            $there[$o->kind->value][$o->uid] = $o->verb !== Verb::Delete;
            $o->verb !== Verb::Create ?: $made[$o->kind->value][$o->uid] = $o;
        }
        foreach ($isPart ? $proposal->operationList() : [] as $o) {
            $open[$o->kind->value][$o->uid] = true;
        }
        foreach ($known as $kind => $list) {
            foreach ($list as $uid => $identity) {
                [$uid, $foreign, $told] = is_array($identity) ? $identity : [$uid, $identity, null];
                if ($there[$kind][$uid] ?? ! isset($open[$kind][$uid])) { // what the proposal leaves as it is was told too
                    $told ??= ($made[$kind][$uid] ?? null)?->after;
                    $rows[] = [$proposal->exchanged_with, $kind, mb_substr($foreign, 0, 255), $uid,
                        $told === null ? null : json_encode($told, JSON_THROW_ON_ERROR)];
                }
                if (count($rows) === Rows::CHUNK - 1) { // there may be hundreds of thousands
                    Rows::upsert('external_identities', self::COLUMNS, $rows);
                    $rows = [];
                }
            }
        }
        $rows === [] ?: Rows::upsert('external_identities', self::COLUMNS, $rows);
    }

    /**
     * What is undone counts as never told: the next file brings it again.
     *
     * @param  list<Operation>  $undone
     */
    public static function forget(array $undone): void
    {
        foreach (array_chunk(array_map(static fn (Operation $o): string => $o->uid, $undone), Rows::CHUNK) as $uids) {
            DB::table('external_identities')->whereIn('uid', $uids)->whereNotNull('told')->update(['told' => null]);
        }
    }

    /** @return list<array{source: string, id: string}> what other systems call an object */
    public static function of(EntityKind $kind, string $uid): array
    {
        /** @var list<array{source: string, id: string}> */
        return DB::table('external_identities')->where('kind', $kind->value)->where('uid', $uid)->orderBy('source')
            ->where('foreign_id', 'not like', 'f-%') // made of its key or code, the source gives none
            ->get(['source', 'foreign_id'])
            ->map(static fn (object $r): array => ['source' => $r->source, 'id' => $r->foreign_id])->all();
    }
}

<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use App\Models\ChangeSet;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;

/**
 * What other systems call our objects: source, kind and foreign id lead to a uid. Those of objects that are gone stay, as an undo brings
 * them back.
 */
final class Identities implements Follower
{
    private const COLUMNS = ['source', 'kind', 'foreign_id', 'uid', 'told'];

    public function follow(Committed $change): void
    {
        self::keep($change->request->proposal, $change->operations, $change->isPart, $change->id);
        $change->request->undoes === null ?: self::restore($change->request->undoes, $change->operations, $change->id);
    }

    /**
     * Keeps what the source of a proposal calls the objects that were made or changed by it, and what it said of them.
     *
     * @param  list<Operation>  $applied
     * @param  bool  $isPart  the proposal has more
     * @param  int  $by  id of the change set
     */
    private static function keep(?ChangeSet $proposal, array $applied, bool $isPart, int $by): void
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
                    self::write($rows, $made, $by);
                    $rows = [];
                }
            }
        }
        self::write($rows, $made, $by);
    }

    /**
     * @param  list<array{string, string, string, string, string|null}>  $rows  source, kind, what it calls it, uid, what it says of it
     * @param  array<string, array<string, Operation>>  $made  kind => uid of what is new here, of which nothing was told before
     */
    private static function write(array $rows, array $made, int $by): void
    {
        if ($rows === []) {
            return;
        }
        $others = array_values(array_filter($rows, static fn (array $r): bool => ! isset($made[$r[1]][$r[3]])));
        $before = [];
        foreach ($others === [] ? [] : DB::table('external_identities')->where('source', $rows[0][0])
            ->whereIn('foreign_id', array_column($others, 2))->get(['kind', 'foreign_id', 'told']) as $row) {
            /** @var object{kind: string, foreign_id: string, told: string|null} $row */
            $before[$row->kind][$row->foreign_id] = $row->told;
        }
        Rows::upsert('external_identities', self::COLUMNS, $rows);
        $changed = [];
        foreach ($others as [$source, $kind, $foreign, , $told]) {
            $was = $before[$kind][$foreign] ?? null;
            $was === $told ?: $changed[] = [$by, $source, $kind, $foreign, $was, self::mark($told)];
        }
        self::remember($changed);
    }

    /**
     * @param  list<array{int, string, string, string, string|null, string}>  $rows  change set, source, kind, name, told before, mark of
     *     since
     */
    private static function remember(array $rows): void
    {
        foreach (array_chunk($rows, Rows::CHUNK - 1) as $chunk) {
            DB::table('told_before')->insert(array_map(static fn (array $r): array => array_combine(['change_set_id', 'source', 'kind',
                'foreign_id', 'told', 'since'], $r), $chunk));
        }
    }

    private static function mark(?string $told): string
    {
        return md5($told ?? '');
    }

    /**
     * What was told before a change set counts again, but for what was told anew since; what it had made counts as never told: the next
     * file brings it again.
     *
     * @param  list<Operation>  $operations  of the undo
     * @param  int  $by  id of the change set that undoes
     */
    private static function restore(ChangeSet $undone, array $operations, int $by): void
    {
        $those = 'told_before b JOIN external_identities e ON e.source = b.source AND e.kind = b.kind AND e.foreign_id = b.foreign_id';
        $unlessSince = "b.change_set_id = ? AND BINARY MD5(COALESCE(e.told, '')) = BINARY b.since";
        DB::insert('INSERT INTO told_before (change_set_id, source, kind, foreign_id, told, since) '
            ."SELECT ?, e.source, e.kind, e.foreign_id, e.told, MD5(COALESCE(b.told, '')) FROM {$those} WHERE {$unlessSince} ORDER BY b.id",
            [$by, $undone->id]);
        DB::update("UPDATE {$those} SET e.told = b.told WHERE {$unlessSince}", [$undone->id]);
        $changed = [];
        $gone = $undone->source !== 'import' ? [] : array_filter($operations, static fn (Operation $o): bool => $o->verb === Verb::Delete);
        foreach (array_chunk(array_map(static fn (Operation $o): string => $o->uid, $gone), Rows::CHUNK) as $uids) {
            $rows = DB::table('external_identities')->whereIn('uid', $uids)->whereNotNull('told')
                ->get(['source', 'kind', 'foreign_id', 'told']);
            foreach ($rows as $r) {
                /** @var object{source: string, kind: string, foreign_id: string, told: string} $r */
                $changed[] = [$by, $r->source, $r->kind, $r->foreign_id, $r->told, self::mark(null)];
            }
            DB::table('external_identities')->whereIn('uid', $uids)->whereNotNull('told')->update(['told' => null]);
        }
        self::remember($changed);
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

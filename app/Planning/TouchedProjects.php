<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Enterprise;
use App\Database\Rows;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Uid;

/** Which stored projects do operations touch? Those of every object that they name or refer to. */
final class TouchedProjects
{
    /**
     * @param  list<Operation>  $operations
     * @return list<int> ids
     */
    public static function of(array $operations): array
    {
        $named = $made = []; // what they make is in no project yet
        foreach ($operations as $o) {
            $kind = $o->kind->value;
            if ($o->verb === Verb::Create && ! isset($named[$kind][$o->uid])) {
                $made[$kind][$o->uid] = true;
            } else {
                $named[$kind][$o->uid] = true;
            }
            foreach ($o->kind->entry()->references as $reference) {
                foreach ([$o->before ?? [], $o->after ?? []] as $fields) {
                    $uid = $fields[$reference->field] ?? null;
                    // using what the enterprise has touches nobody else; changing a calendar does
                    if (is_string($uid) && Uid::isSound($uid) && $reference->to->entry()->owner === Owner::Project) {
                        $named[$reference->to->value][$uid] = true;
                    }
                }
            }
        }
        $found = [];
        foreach ($named as $kind => $uids) {
            array_push($found, ...self::projectsOf(EntityKind::from($kind), array_map(strval(...),
                array_keys(array_diff_key($uids, $made[$kind] ?? [])))));
        }
        $shared = [];
        foreach ($operations as $o) {
            $entry = $o->kind->entry();
            $binds = array_intersect_key($o->after ?? [], array_flip($entry->bindsUsers)) !== [];
            if ($entry->owner === Owner::Enterprise && ($entry->shapesDates || $binds || $o->verb === Verb::Delete)) {
                $shared[$o->kind->value][] = $o->uid; // what uses it may move, or keep it from being deleted
            }
        }
        foreach ($shared as $kind => $uids) {
            array_push($found, ...self::usersOf(EntityKind::from($kind),
                self::find(Table::of(EntityKind::from($kind))->name(), 'id', $uids)));
        }
        foreach ($operations as $o) {
            $moves = $o->verb === Verb::Update && $o->kind->entry()->owner === Owner::Project && isset($o->after['project']);
            if ($moves || ($o->verb === Verb::Delete && $o->kind !== EntityKind::Link)) {
                $found = [...$found, ...self::neighbours($found)]; // links of theirs may go along

                break;
            }
        }

        return array_values(array_unique($found));
    }

    /**
     * Projects at the other end of handovers.
     *
     * @param  list<int>  $projects
     * @return list<int>
     */
    private static function neighbours(array $projects): array
    {
        $in = Rows::in($projects);

        return array_map(static fn (array $row): int => (int) $row[0], Rows::all("SELECT DISTINCT from_project_id FROM links
            WHERE handover = 1 AND to_project_id IN {$in}
            UNION SELECT DISTINCT to_project_id FROM links WHERE handover = 1 AND from_project_id IN {$in}"));
    }

    /**
     * @param  list<string>  $uids
     * @return list<int>
     */
    private static function projectsOf(EntityKind $kind, array $uids): array
    {
        $table = Table::of($kind);

        return $kind->entry()->owner === Owner::Enterprise ? []
            : array_merge(...array_map(static fn (string $column): array => self::find($table->name(), $column, $uids),
                $table->projectColumns()));
    }

    /**
     * @param  list<string>  $uids
     * @return list<int>
     */
    private static function find(string $table, string $column, array $uids): array
    {
        $found = [];
        foreach (array_chunk($uids, Rows::CHUNK) as $chunk) {
            foreach (DB::table($table)->whereIn('uid', $chunk)->distinct()->pluck($column) as $id) {
                $found[] = is_numeric($id) ? (int) $id : 0;
            }
        }

        return $found;
    }

    /**
     * Projects that use things of the enterprise, directly or through other such things.
     *
     * @param  list<int>  $ids
     * @return list<int> ids
     */
    private static function usersOf(EntityKind $kind, array $ids): array
    {
        $projects = [];
        $seen = [$kind->value => array_fill_keys($ids, true)];
        for ($queue = $ids === [] ? [] : [[$kind, $ids]]; $queue !== [];) {
            [$of, $rows] = array_pop($queue);
            foreach (EntityKind::cases() as $user) {
                foreach ($user->entry()->references as $reference) {
                    if ($reference->to !== $of) {
                        continue;
                    }
                    $table = Table::of($user);
                    $using = DB::table($table->name())->whereIn(Table::column($reference->field), $rows);
                    if ($user->entry()->owner === Owner::Project) {
                        /** @var list<int> $found */
                        $found = $using->distinct()->pluck($table->projectColumns()[0])->all();
                        array_push($projects, ...$found);

                        continue;
                    }
                    /** @var list<int> $found */
                    $found = $using->pluck('id')->all();
                    $new = array_values(array_filter($found, static fn (int $id): bool => ! isset($seen[$user->value][$id])));
                    $seen[$user->value] = ($seen[$user->value] ?? []) + array_fill_keys($new, true);
                    if ($new !== []) {
                        $queue[] = [$user, $new];
                    }
                }
            }
        }

        return $projects;
    }
}

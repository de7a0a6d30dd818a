<?php

declare(strict_types=1);

namespace App\Planning;

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
        $named = [];
        foreach ($operations as $o) {
            $named[$o->kind->value][$o->uid] = true;
            foreach ($o->kind->entry()->references as $reference) {
                foreach ([$o->before ?? [], $o->after ?? []] as $fields) {
                    $uid = $fields[$reference->field] ?? null;
                    // using a calendar touches nobody else; changing it does
                    if (is_string($uid) && Uid::isSound($uid) && $reference->to->entry()->owner === Owner::Project) {
                        $named[$reference->to->value][$uid] = true;
                    }
                }
            }
        }
        $found = [];
        foreach ($named as $kind => $uids) {
            array_push($found, ...self::projectsOf(EntityKind::from($kind), array_map(strval(...), array_keys($uids))));
        }
        foreach ($operations as $o) {
            if ($o->verb === Verb::Delete && $o->kind !== EntityKind::Link) {
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

        return array_map(static fn (array $row): int => (int) $row[0], Rows::all("SELECT DISTINCT from_project_id FROM links WHERE handover = 1 AND to_project_id IN {$in}
            UNION SELECT DISTINCT to_project_id FROM links WHERE handover = 1 AND from_project_id IN {$in}"));
    }

    /**
     * @param  list<string>  $uids
     * @return list<int>
     */
    private static function projectsOf(EntityKind $kind, array $uids): array
    {
        $table = Table::of($kind);

        return $kind->entry()->owner === Owner::Enterprise
            ? self::usersOf(self::find($table->name(), 'id', $uids))
            : array_merge(...array_map(static fn (string $column): array => self::find($table->name(), $column, $uids), $table->projectColumns()));
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
     * Projects that use calendars or some derived from them.
     *
     * @param  list<int>  $ids
     * @return list<int>
     */
    private static function usersOf(array $ids): array
    {
        if ($ids === []) {
            return [];
        }
        do {
            $count = count($ids);
            /** @var list<int> $derived */
            $derived = DB::table('calendars')->whereIn('base_id', $ids)->pluck('id')->all();
            $ids = array_values(array_unique([...$ids, ...$derived]));
        } while (count($ids) > $count);

        /** @var list<int> */
        return [...DB::table('projects')->whereIn('calendar_id', $ids)->pluck('id')->all(), ...DB::table('activities')->whereIn('calendar_id', $ids)->distinct()->pluck('project_id')->all()];
    }
}

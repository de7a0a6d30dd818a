<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;

/** Which stored projects do operations touch? */
final class TouchedProjects
{
    /**
     * @param  list<Operation>  $operations
     * @return list<int> ids
     */
    public static function of(array $operations): array
    {
        $projects = $wbs = $activities = $links = $calendars = [];
        foreach ($operations as $o) {
            match ($o->kind) {
                EntityKind::Project => $projects[] = $o->uid,
                EntityKind::Wbs => $wbs[] = $o->uid,
                EntityKind::Activity => $activities[] = $o->uid,
                EntityKind::Link => $links[] = $o->uid,
                EntityKind::Calendar => $calendars[] = $o->uid,
            };
            foreach ([$o->before ?? [], $o->after ?? []] as $fields) {
                $projects[] = $fields['project'] ?? null;
                $activities[] = $fields['from'] ?? null;
                $activities[] = $fields['to'] ?? null;
            }
        }
        $found = [
            ...self::find('projects', 'id', $projects),
            ...self::find('wbs_elements', 'project_id', $wbs),
            ...self::find('activities', 'project_id', $activities),
            ...self::find('links', 'from_project_id', $links),
            ...self::find('links', 'to_project_id', $links),
            ...self::usersOf($calendars),
        ];

        return array_values(array_unique($found));
    }

    /**
     * @param  list<mixed>  $uids
     * @return list<int>
     */
    private static function find(string $table, string $column, array $uids): array
    {
        $found = [];
        $uids = array_unique(array_filter($uids, is_string(...)));
        foreach (array_chunk($uids, 1000) as $chunk) {
            foreach (DB::table($table)->whereIn('uid', $chunk)->distinct()->pluck($column) as $id) {
                $found[] = is_numeric($id) ? (int) $id : 0;
            }
        }

        return $found;
    }

    /**
     * Projects that use a calendar or one derived from it.
     *
     * @param  list<string>  $calendars
     * @return list<int>
     */
    private static function usersOf(array $calendars): array
    {
        $ids = self::find('calendars', 'id', $calendars);
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

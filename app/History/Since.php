<?php

declare(strict_types=1);

namespace App\History;

use Illuminate\Database\Query\Builder;
use Illuminate\Database\Query\JoinClause;
use Illuminate\Support\Facades\DB;

/** What changed in projects since a moment, activity by activity. What was done and undone in between is left out. */
final class Since
{
    /** fields of links that show on the activity they lead to, under one word */
    private const LINK = 'link';

    /**
     * @param  array<string, string>  $after  project uid => moment (to the microsecond) of the last change set that does not count
     * @return array{uid: list<string>, made: list<int>, start: list<int|null>, finish: list<int|null>, fields: list<string>,
     *     by: list<string>, removed: list<int>} activities as columns: whether made since, dates before (null where they were not moved),
     *     names of changed fields and of those who changed them, both with commas between; activities removed, per project
     */
    public static function of(array $after): array
    {
        $made = $fields = $by = $dates = $removed = [];
        foreach ($after as $project => $from) {
            $revision = self::revision($project, $from);
            $undone = self::undone($project, $revision, $from);
            $gone = $madeHere = $fieldsHere = $byHere = []; // what left one project may have come to another one
            /** @var iterable<object{kind: string, uid: string, verb: string, field: string, to: string|null, author: string|null}> $rows */
            $rows = self::changes($project, $revision)->whereNotIn('c.change_set_id', $undone)->get();
            foreach ($rows as $row) {
                $activity = $row->kind === 'link' ? $row->to : $row->uid;
                if ($activity === null) {
                    continue;
                }
                if ($row->kind === 'activity' && $row->verb === 'delete') {
                    $gone[$activity] = true;
                    unset($madeHere[$activity], $fieldsHere[$activity], $byHere[$activity]);

                    continue;
                }
                if ($row->kind === 'activity') {
                    unset($gone[$activity]);
                    $madeHere += $row->verb === 'create' ? [$activity => true] : [];
                }
                $fieldsHere[$activity][$row->kind === 'link' ? self::LINK : $row->field] = true;
                $byHere[$activity][(string) $row->author] = true;
            }
            $made += $madeHere;
            foreach ($fieldsHere as $activity => $names) {
                $fields[$activity] = ($fields[$activity] ?? []) + $names;
                $by[$activity] = ($by[$activity] ?? []) + $byHere[$activity];
            }
            foreach (DateMoves::in([$project], after: $from) as [, $moves]) {
                foreach ($moves as $activity => [$start, , $finish]) {
                    $dates[$activity] = [$start, $finish]; // the latest comes first, the earliest is to stay
                }
            }
            $dates = array_diff_key($dates, $gone, $made);
            $removed[] = count($gone);
        }
        $list = [];
        foreach (array_keys($fields + $dates) as $uid) {
            $names = array_filter(array_keys($fields[$uid] ?? []), static fn (int|string $f): bool => $f !== '');
            $list[] = [(string) $uid, isset($made[$uid]) ? 1 : 0, $dates[$uid][0] ?? null, $dates[$uid][1] ?? null,
                implode(',', $names), implode(', ', array_keys($by[$uid] ?? []))];
        }

        return ['uid' => array_column($list, 0), 'made' => array_column($list, 1), 'start' => array_column($list, 2),
            'finish' => array_column($list, 3), 'fields' => array_column($list, 4), 'by' => array_column($list, 5), 'removed' => $removed];
    }

    /** The revision that a project had at a moment; looked for from the latest one on, since that is nearer. */
    private static function revision(string $project, string $moment): int
    {
        $found = DB::table('change_set_projects as p')->join('change_sets as s', 's.id', '=', 'p.change_set_id')
            ->where('p.project_uid', $project)->where('s.applied_at', '<=', $moment)->orderByDesc('p.revision')->value('p.revision');

        return is_int($found) ? $found : 0;
    }

    /** Objects of the project, the oldest change first; links with the activity they lead to. */
    private static function changes(string $project, int $revision): Builder
    {
        return DB::table('plan_changes as c')->join('change_sets as s', 's.id', '=', 'c.change_set_id')
            ->leftJoin('users as u', 'u.id', '=', 's.author_id')
            ->leftJoin('links as l', static fn (JoinClause $j) => $j->on('l.uid', '=', 'c.uid')->where('c.kind', '=', 'link'))
            ->leftJoin('activities as a', static fn (JoinClause $j) => $j->on('a.id', '=', 'l.to_id')
                ->whereIn('a.project_id', DB::table('projects')->where('uid', $project)->select('id')))
            ->where('c.project_uid', $project)->where('c.revision', '>', $revision)->whereIn('c.kind', ['activity', 'link'])
            ->orderBy('c.revision')->orderBy('c.id')->select(['c.kind', 'c.uid', 'c.verb', 'c.field', 'a.uid as to', 'u.name as author']);
    }

    /** @return list<int> ids of change sets that were undone since, and of those that undid them */
    private static function undone(string $project, int $revision, string $from): array
    {
        /** @var array<int, int> $pairs */
        $pairs = DB::table('change_sets as s')->join('change_set_projects as p', 'p.change_set_id', '=', 's.id')
            ->join('change_sets as o', 'o.id', '=', 's.undoes_id')->where('p.project_uid', $project)
            ->where('p.revision', '>', $revision)->where('o.applied_at', '>', $from)->orderBy('s.applied_at')
            ->pluck('s.undoes_id', 's.id')->all();
        $out = [];
        foreach ($pairs as $by => $of) {
            if (! isset($out[$of])) {
                $out[$by] = $out[$of] = true;
            }
        }

        return array_keys($out);
    }
}

<?php

declare(strict_types=1);

namespace App\Baselines;

use App\Database\Rows;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Copying\Copy;

/** Baselines in the database, written once and never changed but for their name and whether they are current. */
final class BaselineStore
{
    private const CHUNK = 1000;

    public static function save(Baseline $baseline, User $author, bool $current): void
    {
        DB::transaction(static function () use ($baseline, $author, $current): void {
            DB::table('projects')->where('uid', $baseline->project)->lockForUpdate()->value('id'); // one after the other
            $id = DB::table('baselines')->insertGetId(['uid' => $baseline->uid, 'project_uid' => $baseline->project,
                'name' => $baseline->name, 'taken' => $baseline->taken, 'author_id' => $author->id]);
            $rows = [];
            foreach (['activity' => $baseline->activities, 'wbs' => $baseline->wbs,
                'project' => array_filter([$baseline->project => $baseline->total])] as $kind => $list) {
                foreach ($list as $uid => $row) {
                    $rows[] = ['baseline_id' => $id, 'kind' => $kind, 'uid' => $uid] + get_object_vars($row);
                }
            }
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                DB::table('baseline_rows')->insert($chunk);
            }
            if ($current) {
                self::makeCurrent($baseline->project, $id);
            }
        }, 5);
    }

    /** The current baseline of a project for its copy, with dates that moved along; nothing where there is none. */
    public static function copy(string $project, Copy $copy, string $uid, User $author): void
    {
        $from = self::current($project);
        if ($from === null) {
            return;
        }
        $shift = $copy->shift($project);
        $moved = static fn (BaselineRow $row): BaselineRow => new BaselineRow($copy->codes[$row->code] ?? $row->code, $row->name,
            $shift->start($row->start), $shift->finish($row->finish), $row->duration, $row->work, $row->cost);
        $rows = static function (array $list) use ($copy, $moved): array {
            $made = [];
            foreach ($list as $of => $row) {
                if (isset($copy->made[$of]) && $row instanceof BaselineRow) {
                    $made[$copy->made[$of]] = $moved($row);
                }
            }

            return $made;
        };
        self::save(new Baseline($uid, $copy->made[$project], $from->name, $shift->start($from->taken), $from->total === null ? null
            : $moved($from->total), $rows($from->activities), $rows($from->wbs)), $author, true);
    }

    /** @param  int|null  $id  of the baseline, null for none */
    public static function makeCurrent(string $project, ?int $id): void
    {
        DB::table('baselines')->where('project_uid', $project)->update(['current' => false]);
        DB::table('baselines')->where('id', $id)->update(['current' => true]);
    }

    /** The current baseline of a project; null when it has none. */
    public static function current(string $project): ?Baseline
    {
        $uid = DB::table('baselines')->where('project_uid', $project)->where('current', true)->value('uid');

        return is_string($uid) ? self::load($uid) : null;
    }

    public static function load(string $uid): Baseline
    {
        $quoted = DB::connection()->getPdo()->quote($uid);
        /** @var list<array{int, string, string, string, int}> $found */
        $found = Rows::all("SELECT id, uid, project_uid, name, taken FROM baselines WHERE uid = {$quoted}");
        [$id, $uid, $project, $name, $taken] = $found[0];
        $lists = ['activity' => [], 'wbs' => [], 'project' => []];
        /** @var list<array{'activity'|'wbs'|'project', string, string, string, int, int, int, int, int}> $rows */
        $rows = Rows::all("SELECT kind, uid, code, name, start, finish, duration, work, cost FROM baseline_rows WHERE baseline_id = {$id}");
        foreach ($rows as $row) {
            $lists[$row[0]][$row[1]] = new BaselineRow(...array_slice($row, 2));
        }

        return new Baseline($uid, $project, $name, $taken, $lists['project'][$project] ?? null, $lists['activity'], $lists['wbs']);
    }

    /**
     * Planned starts of activities in the current baselines of their projects.
     *
     * @param  list<string>  $activities  uids
     * @return array<string, int> uid => moment
     */
    public static function starts(array $activities): array
    {
        /** @var array<string, int> */
        return DB::table('baseline_rows')->join('baselines', 'baselines.id', '=', 'baseline_rows.baseline_id')->where('current', true)
            ->where('kind', 'activity')
            ->whereIn('baseline_rows.uid', $activities)->pluck('start', 'baseline_rows.uid')->all();
    }
}

<?php

declare(strict_types=1);

namespace App\Health;

use App\Baselines\BaselineStore;
use App\Database\Rows;
use App\Planning\Connected;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Health\Examination;
use Reihe\Core\Health\Finding;
use Reihe\Core\Health\Grouped;
use Reihe\Core\Health\Severity;

/** What the checks find in stored projects, apart from what somebody left as it is. */
final class ProjectHealth
{
    /**
     * @param  list<int>  $projects  ids
     * @return array<string, list<array{Finding, list<array{activity: string, reason: string, author: string}>}>> uid of the project, in
     *     the order of their keys => what each check found, and what of it was waived
     */
    public static function of(array $projects): array
    {
        $thresholds = ThresholdStore::load();
        $schedule = Connected::with($projects)->schedule->calculated();
        /** @var list<string> $uids */
        $uids = DB::table('projects')->whereIn('id', $projects)->orderBy('key')->pluck('uid')->all();
        $grouped = new Grouped($schedule);
        $found = [];
        $waivers = WaiverStore::of($projects);
        foreach ($uids as $uid) {
            $waived = $waivers[$uid] ?? [];
            $found[$uid] = array_map(static fn (Finding $f): array => [$f->without($waived[$f->check->value] ?? [], $schedule->plan),
                array_values(array_intersect_key($waived[$f->check->value] ?? [], array_flip($f->activities)))],
                Examination::of($schedule, $uid, BaselineStore::current($uid), $thresholds, $grouped));
        }

        return $found;
    }

    /**
     * How many checks say that dates cannot be trusted, and how many that they may mislead. Kept until something that they follow from
     * differs: the project or its dates, its current baseline, what was waived, the thresholds.
     *
     * @param  list<int>  $projects  ids
     * @return array<string, array{broken: int, attention: int}> by uid
     */
    public static function marks(array $projects): array
    {
        if ($projects === []) {
            return [];
        }
        $settings = hash('xxh64', serialize(ThresholdStore::load()));
        $in = Rows::in($projects);
        $marks = $stale = [];
        /** @var list<array{int, string, string, string|null, int|null, int|null}> $rows */
        $rows = Rows::all("SELECT p.id, p.uid, CONCAT_WS('/', p.revision, b.id, w.n, w.last), h.state, h.broken, h.attention
            FROM projects p LEFT JOIN project_health h ON h.project_id = p.id
            LEFT JOIN baselines b ON b.project_uid = p.uid AND b.current = 1
            LEFT JOIN (SELECT a.project_id, COUNT(*) AS n, MAX(w.id) AS last FROM waivers w JOIN activities a ON a.uid = w.activity
                WHERE a.project_id IN {$in} GROUP BY a.project_id) w ON w.project_id = p.id
            WHERE p.id IN {$in}");
        foreach ($rows as [$id, $uid, $state, $kept, $broken, $attention]) {
            if ($kept === "{$state}/{$settings}") {
                $marks[$uid] = ['broken' => (int) $broken, 'attention' => (int) $attention];
            } else {
                $stale[$uid] = [$id, "{$state}/{$settings}"];
            }
        }
        $new = [];
        foreach ($stale === [] ? [] : self::of(array_column($stale, 0)) as $uid => $findings) {
            $count = static fn (Severity $s): int => count(array_filter($findings,
                static fn (array $f): bool => $f[0]->fine === false && $f[0]->check->severity() === $s));
            $marks[$uid] = ['broken' => $count(Severity::Broken), 'attention' => $count(Severity::Attention)];
            $new[] = [$stale[$uid][0], $stale[$uid][1], $marks[$uid]['broken'], $marks[$uid]['attention']];
        }
        $new === [] ?: Rows::upsert('project_health', ['project_id', 'state', 'broken', 'attention'], $new);

        return $marks;
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Report;

use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\Comparison;
use Reihe\Core\Baseline\Standing;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/** A schedule beside an earlier one of the same projects (matched by key, activities by code), as data and as text. */
final class ComparisonReport
{
    /**
     * @return array<string, list<array{code: string, name: string, standing: string, start: int|null, finish: int|null,
     *     duration: int|null, work: int|null, cost: int|null}>> project key => activities
     */
    public static function data(Schedule $now, Schedule $earlier): array
    {
        $was = RollUp::of($earlier);
        $is = RollUp::of($now);
        $before = array_column(array_map(static fn ($p): array => [$p->key, $p->uid], $earlier->plan->projects), 1, 0);
        $data = [];
        foreach ($now->plan->projects as $uid => $project) {
            if (! isset($before[$project->key])) {
                continue;
            }
            $baseline = Baseline::take($earlier, $was, $before[$project->key], 'earlier', 'earlier', 0);
            $codes = [];
            foreach ($now->plan->activities as $a) {
                if ($a->project === $uid) {
                    $codes[$a->code] = $a->uid;
                }
            }
            $rows = [];
            foreach ($baseline->activities as $old => $row) {
                $rows[$codes[$row->code] ?? "gone:{$old}"] = $row;
            }
            $comparison = Comparison::of(new Baseline('earlier', $uid, 'earlier', 0, $baseline->total, $rows, []), $now, $is);
            $data[$project->key] = [];
            foreach ($comparison->activities as $v) {
                $named = $v->now ?? $v->baseline;
                $data[$project->key][] = ['code' => $named->code ?? '', 'name' => $named->name ?? '', 'standing' => $v->standing->value,
                    'start' => $v->start, 'finish' => $v->finish, 'duration' => $v->duration, 'work' => $v->work, 'cost' => $v->cost];
            }
        }

        return $data;
    }

    /** What differs, variances in minutes. */
    public static function text(Schedule $now, Schedule $earlier): string
    {
        $text = '';
        foreach (self::data($now, $earlier) as $key => $rows) {
            $differing = array_filter($rows, static fn (array $r): bool => $r['standing'] !== Standing::Same->value);
            $text .= sprintf("%s: %d of %d activities differ\n", $key, count($differing), count($rows));
            foreach ($differing as $r) {
                $text .= sprintf("  %-24s %s\n", $r['code'],
                    $r['standing'] === Standing::Changed->value
                    ? sprintf('start %+d, finish %+d, duration %+d min', $r['start'], $r['finish'], $r['duration']) : $r['standing']);
            }
        }

        return $text;
    }
}

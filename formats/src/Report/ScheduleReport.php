<?php

declare(strict_types=1);

namespace Reihe\Formats\Report;

use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** The results of a schedule as data and as a table in text. */
final class ScheduleReport
{
    /**
     * @return array{projects: list<array{key: string, start: string|null, finish: string|null}>, activities: list<array{project: string, code: string, earlyStart: string, earlyFinish: string, lateStart: string|null, lateFinish: string|null, totalFloat: int|null, freeFloat: int|null, critical: bool, drivenBy: list<string>}>, links: list<array{from: string, to: string, type: string, float: int|null, driving: bool}>}
     *         local ISO date-times, floats in minutes, null where there is none
     */
    public static function data(Schedule $schedule): array
    {
        $plan = $schedule->plan;
        $n = $schedule->network;
        $d = $schedule->dates;
        $projects = $activities = $links = [];
        $starts = [];
        foreach ($plan->activities as $uid => $activity) {
            $i = $n->node[$uid];
            $starts[$activity->project] = min($starts[$activity->project] ?? $d->start[$i], $d->start[$i]);
            $drivenBy = [];
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($d->driving[$k]) {
                    $drivenBy[] = $plan->label($n->uid[$n->from[$k]]);
                }
            }
            sort($drivenBy);
            $activities[] = [
                'project' => $plan->projects[$activity->project]->key,
                'code' => $activity->code,
                'earlyStart' => Instant::format($d->start[$i]),
                'earlyFinish' => Instant::format($d->finish[$i]),
                'lateStart' => Instant::formatOrNull($d->lateStart[$i]),
                'lateFinish' => Instant::formatOrNull($d->lateFinish[$i]),
                'totalFloat' => $d->totalFloat[$i],
                'freeFloat' => $d->freeFloat[$i],
                'critical' => $d->critical[$i],
                'drivenBy' => array_values(array_unique($drivenBy)),
            ];
        }
        foreach ($n->projectUid as $p => $uid) {
            $projects[] = ['key' => $plan->projects[$uid]->key, 'start' => Instant::formatOrNull($starts[$uid] ?? null), 'finish' => Instant::formatOrNull($d->ownEnd[$p])];
        }
        $edges = array_flip($n->linkUid);
        foreach ($plan->links as $uid => $link) {
            $k = $edges[$uid];
            $links[] = ['from' => $plan->label($link->from), 'to' => $plan->label($link->to), 'type' => $link->type->value,
                'float' => $d->linkFloat[$k], 'driving' => $d->driving[$k]];
        }

        return ['projects' => $projects, 'activities' => $activities, 'links' => $links];
    }

    /** Aligned columns, one line per activity, projects in between. */
    public static function table(Schedule $schedule): string
    {
        $data = self::data($schedule);
        $rows = [['Activity', 'Early start', 'Early finish', 'Late start', 'Late finish', 'Total float', 'Free float', '', 'Driven by']];
        foreach ($data['activities'] as $a) {
            $row = [];
            foreach (["{$a['project']}/{$a['code']}", $a['earlyStart'], $a['earlyFinish'], $a['lateStart'], $a['lateFinish'], $a['totalFloat'], $a['freeFloat'], $a['critical'] ? 'critical' : ''] as $cell) {
                $row[] = $cell === null ? '–' : (is_int($cell) ? "{$cell} min" : str_replace('T', ' ', $cell));
            }
            $rows[] = [...$row, implode(', ', $a['drivenBy'])];
        }
        $widths = array_fill(0, count($rows[0]), 0);
        foreach ($rows as $row) {
            foreach ($row as $c => $cell) {
                $widths[$c] = max($widths[$c], mb_strlen($cell));
            }
        }
        $text = '';
        foreach ($data['projects'] as $project) {
            $text .= sprintf("%s: %s … %s\n", $project['key'], str_replace('T', ' ', $project['start'] ?? '–'), str_replace('T', ' ', $project['finish'] ?? '–'));
        }
        $text .= "\n";
        foreach ($rows as $row) {
            $line = '';
            foreach ($row as $c => $cell) {
                $pad = str_repeat(' ', $widths[$c] - mb_strlen($cell));
                $line .= ($c === 5 || $c === 6 ? $pad.$cell : $cell.$pad).'  ';
            }
            $text .= rtrim($line)."\n";
        }

        return $text;
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Report;

use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Reason;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** The results of a schedule as data and as a table in text. */
final class ScheduleReport
{
    /** names of drivers in a line of text; all of them are in the data */
    private const DRIVERS = 8;

    /**
     * Local ISO date-times; durations, floats and margins in minutes; percentages with three decimals; null where there is none.
     *
     * @return array{projects: list<array{key: string, start: string|null, finish: string|null, duration: int, totalFloat: int|null,
     *     critical: bool, percent: float, work: int, cost: int, margin: int|null}>, wbs: list<array<string, mixed>>,
     *     activities: list<array{project: string, code: string, earlyStart: string, earlyFinish: string, lateStart: string|null,
     *     lateFinish: string|null, totalFloat: int|null, freeFloat: int|null, interferingFloat: int|null, critical: bool,
     *     nearCritical: bool, percent: float, drivenBy: list<string>, reasons: list<array<string, mixed>>,
     *     waits: list<array<string, mixed>>}>,
     *     links: list<array<string, mixed>>, handovers: list<array<string, mixed>>}
     */
    public static function data(Schedule $schedule): array
    {
        $plan = $schedule->plan;
        $n = $schedule->network;
        $d = $schedule->dates;
        $rollUp = RollUp::of($schedule);
        $projects = $wbs = $activities = $links = $handovers = [];
        foreach ($plan->projects as $uid => $project) {
            $projects[] = ['key' => $project->key] + self::rolled($rollUp->projects[$uid]);
        }
        foreach ($plan->wbs as $uid => $element) {
            $wbs[] = ['project' => $plan->projects[$element->project]->key, 'code' => $element->code,
                'name' => $element->name] + self::rolled($rollUp->wbs[$uid]);
        }
        foreach ($plan->activities as $uid => $activity) {
            $dates = $schedule->activity($uid);
            $why = Reasons::of($schedule, $uid);
            $drivenBy = array_filter(array_map(static fn (Reason $r): ?string => $r->from === null ? null : $plan->label($r->from),
                $why->reasons));
            sort($drivenBy);
            $activities[] = [
                'project' => $plan->projects[$activity->project]->key,
                'code' => $activity->code,
                'earlyStart' => Instant::format($dates->earlyStart),
                'earlyFinish' => Instant::format($dates->earlyFinish),
                'lateStart' => Instant::formatOrNull($dates->lateStart),
                'lateFinish' => Instant::formatOrNull($dates->lateFinish),
                'totalFloat' => $dates->totalFloat,
                'freeFloat' => $dates->freeFloat,
                'interferingFloat' => $dates->interferingFloat(),
                'critical' => $dates->critical,
                'nearCritical' => $dates->nearCritical,
                'percent' => $n->percent[$n->node[$uid]] / 1000,
                'drivenBy' => array_values(array_unique($drivenBy)),
                'reasons' => TraceReport::reasons($schedule, $why),
                'waits' => TraceReport::waits($why),
            ];
        }
        $edges = array_flip($n->linkUid);
        foreach ($plan->links as $uid => $link) {
            $k = $edges[$uid];
            $ends = ['from' => $plan->label($link->from), 'to' => $plan->label($link->to), 'type' => $link->type->value];
            $links[] = $ends + ['float' => $d->linkFloat[$k], 'driving' => $d->driving[$k]];
            if (Handover::isOne($n, $k)) {
                $h = Handover::of($n, $d, $k);
                $handovers[] = $ends + ['forecast' => Instant::formatOrNull($h->forecast), 'agreed' => Instant::formatOrNull($h->agreed),
                    'margin' => $h->margin, 'state' => $h->state->value];
            }
        }

        return ['projects' => $projects, 'wbs' => $wbs, 'activities' => $activities, 'links' => $links, 'handovers' => $handovers];
    }

    /**
     * @return array{start: string|null, finish: string|null, duration: int, totalFloat: int|null, critical: bool, percent: float,
     *     work: int, cost: int, margin: int|null}
     */
    private static function rolled(RolledUp $r): array
    {
        return ['start' => Instant::formatOrNull($r->start), 'finish' => Instant::formatOrNull($r->finish), 'duration' => $r->duration,
            'totalFloat' => $r->totalFloat, 'critical' => $r->critical,
            'percent' => round($r->progress() * 100, 3), 'work' => $r->work, 'cost' => $r->cost, 'margin' => $r->margin];
    }

    private static function moment(?string $iso): string
    {
        return $iso === null ? '–' : substr($iso, 0, 10).' '.substr($iso, 11);
    }

    /** Aligned columns, one line per activity, projects in between. */
    public static function table(Schedule $schedule): string
    {
        $data = self::data($schedule);
        /** @var list<list<string>> $rows */
        $rows = [['Activity', 'Early start', 'Early finish', 'Late start', 'Late finish', 'Total float', 'Free float', '', 'Driven by']];
        foreach ($data['activities'] as $a) {
            $row = ["{$a['project']}/{$a['code']}"];
            foreach ([$a['earlyStart'], $a['earlyFinish'], $a['lateStart'], $a['lateFinish']] as $moment) {
                $row[] = self::moment($moment);
            }
            foreach ([$a['totalFloat'], $a['freeFloat']] as $minutes) {
                $row[] = $minutes === null ? '–' : "{$minutes} min";
            }
            $drivers = array_slice($a['drivenBy'], 0, self::DRIVERS);
            $more = count($a['drivenBy']) - count($drivers);
            $rows[] = [...$row, $a['critical'] ? 'critical' : '', implode(', ', $drivers).($more > 0 ? " and {$more} more" : '')];
        }
        $last = count($rows[0]) - 1;
        $widths = array_fill(0, $last, 0);
        foreach ($rows as $row) {
            foreach (array_slice($row, 0, $last) as $c => $cell) {
                $widths[$c] = max($widths[$c], mb_strlen($cell));
            }
        }
        $text = '';
        foreach ($data['projects'] as $project) {
            $text .= sprintf("%s: %s … %s\n", $project['key'], self::moment($project['start']), self::moment($project['finish']));
        }
        $text .= "\n";
        foreach ($rows as $row) {
            $line = '';
            foreach (array_slice($row, 0, $last) as $c => $cell) {
                $pad = str_repeat(' ', $widths[$c] - mb_strlen($cell));
                $line .= ($c === 5 || $c === 6 ? $pad.$cell : $cell.$pad).'  ';
            }
            $text .= rtrim($line.$row[$last])."\n"; // the last column is as long as it is
        }

        return $text;
    }
}

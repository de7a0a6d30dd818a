<?php

declare(strict_types=1);

namespace Reihe\Formats\Report;

use Reihe\Core\Health\Examination;
use Reihe\Core\Health\Finding;
use Reihe\Core\Health\Grouped;
use Reihe\Core\Health\Unit;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\Schedule;

/** Health of every project of a schedule as data and as text. */
final class HealthReport
{
    /** @return array<string, list<array<string, mixed>>> project key => findings in the order of the catalogue */
    public static function data(Schedule $schedule): array
    {
        $data = [];
        $grouped = new Grouped($schedule = $schedule->calculated());
        foreach ($schedule->plan->projects as $uid => $project) {
            $data[$project->key] = array_map(static fn (Finding $f): array => ['check' => $f->check->value,
                'severity' => $f->check->severity()->value, 'fine' => $f->fine, 'count' => $f->count, 'population' => $f->population,
                'value' => $f->value, 'limit' => $f->limit, 'days' => $f->days,
                'activities' => array_map($schedule->plan->label(...), $f->activities),
                'elapsed' => array_combine(array_map(static fn (string $link): string => $schedule->plan->nameOf(EntityKind::Link, $link),
                    array_map(strval(...), array_keys($f->elapsed))), array_values($f->elapsed)), 'source' => $f->check->source()],
                Examination::of($schedule, $uid, grouped: $grouped));
        }

        return $data;
    }

    /** What is not fine, project by project, with the activities concerned. */
    public static function text(Schedule $schedule): string
    {
        $text = '';
        $grouped = new Grouped($schedule = $schedule->calculated());
        foreach ($schedule->plan->projects as $uid => $project) {
            $findings = Examination::of($schedule, $uid, grouped: $grouped);
            $bad = array_filter($findings, static fn (Finding $f): bool => $f->fine === false);
            $text .= sprintf("%s: %d to look at, %d fine\n", $project->key, count($bad),
                count(array_filter($findings, static fn (Finding $f): bool => $f->fine === true)));
            foreach ($bad as $f) {
                $measure = $f->check->unit() === Unit::Index ? sprintf('%.2f, at least %.2f', $f->value, $f->limit)
                    : sprintf('%d of %d (%.1f %%), at most %g %%', $f->count, $f->population, $f->value, $f->limit);
                $text .= sprintf("  %-22s %s  %s\n", $f->check->value, $measure,
                    implode(' ', array_map($schedule->plan->label(...), array_slice($f->activities, 0, 8))).(count($f->activities) > 8
                    ? ' …' : ''));
            }
        }

        return $text;
    }
}

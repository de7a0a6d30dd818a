<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Small plans in a few words: one project `P` on one calendar from Monday 2 March 2026, 08:00. */
final class Made
{
    public const MONDAY = '2026-03-02T08:00';

    /**
     * @param  array<string, array{float|string, 1?: string}>  $rows code => days (or `start`, `finish`, `hammock`), predecessors like `A
     *     B:SS+2 C:FF-1`
     * @param  array<string, array<string, mixed>>  $more  code => further fields of the activity, and of its work
     * @param  array<string, mixed>  $project
     */
    public static function plan(array $rows, array $more = [], array $project = [], ?Calendar $calendar = null): Plan
    {
        $calendar ??= Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00');
        $perDay = $calendar->minutesPerDay ?? 480;
        $parts = [$calendar, Calendar::weekly('dock', 'DOCK', '00:00-12:00', [1, 2, 3, 4, 5, 6, 7]),
            Project::read('P', $project + ['key' => 'P', 'name' => 'P', 'calendar' => $calendar->uid, 'start' => self::MONDAY])];
        foreach ($rows as $code => $row) {
            $kind = ['start' => Kind::StartMilestone, 'finish' => Kind::FinishMilestone, 'hammock' => Kind::Hammock][(string) $row[0]]
                ?? Kind::Task;
            $work = array_intersect_key($more[$code] ?? [], ['actualWork' => 0, 'remainingWork' => 0, 'cost' => 0]);
            if ($work !== []) {
                $parts[] = Assignment::read("{$code}-work", ['activity' => (string) $code] + $work);
            }
            $parts[] = Activity::read((string) $code,
                array_diff_key($more[$code] ?? [], $work) + ['project' => 'P', 'code' => (string) $code, 'kind' => $kind->value,
                    'duration' => $kind === Kind::Task ? (int) round((float) $row[0] * $perDay) : 0]);
            foreach (preg_split('/\s+/', $row[1] ?? '', -1, PREG_SPLIT_NO_EMPTY) ?: [] as $text) {
                preg_match('/^(\w+?)(?::(FS|SS|FF|SF))?([+-][\d.]+)?$/', $text, $m);
                $parts[] = new Link("{$m[1]}>{$code}".($m[2] ?? ''), $m[1], (string) $code, LinkType::from(($m[2] ?? '') ?: 'FS'),
                    (int) round((float) ($m[3] ?? 0) * $perDay));
            }
        }

        return Plan::of($parts);
    }

    /**
     * Dates and floats in whole time units of 24 h, counted from the project's start, as textbooks print them.
     *
     * @param  array<string, array{float|string, 1?: string}>  $rows
     * @param  array<string, mixed>  $project
     * @return array<string, array{int, int, int, int, int, int}> code => ES, EF, LS, LF, TF, FF
     */
    public static function table(array $rows, array $project = []): array
    {
        $start = Instant::parse('2026-03-02T00:00');
        $schedule = Schedule::of(self::plan($rows, [], ['start' => '2026-03-02T00:00'] + $project, Calendar::elapsed()));
        $table = [];
        foreach (array_keys($rows) as $code) {
            $a = $schedule->activity((string) $code);
            $unit = static fn (?int $moment): int => intdiv((int) $moment - $start, 1440);
            $table[$code] = [$unit($a->earlyStart), $unit($a->earlyFinish), $unit($a->lateStart), $unit($a->lateFinish),
                intdiv((int) $a->totalFloat, 1440), intdiv((int) $a->freeFloat, 1440)];
        }

        return $table;
    }

    /** @return array<string, mixed> fields of an activity, with the work on it */
    public static function told(Plan $plan, string $code): array
    {
        $work = AssignedWork::on($plan, $code);

        return ['actualWork' => $work->actual, 'remainingWork' => $work->remaining, 'cost' => $work->cost] + $plan->activities[$code]
            ->fields();
    }

    /** @return array{string, string} early start and finish as text */
    public static function dates(Schedule $schedule, string $code): array
    {
        $a = $schedule->activity($code);

        return [Instant::format($a->earlyStart), Instant::format($a->earlyFinish)];
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** What a change set does to computed dates, project by project. */
final readonly class Ripple
{
    /** Moved activities listed by name, the largest moves first; all of them are counted. */
    private const LISTED = 50;

    /**
     * @param  array<string, array{key: string, name: string, moved: int, turnedCritical: int, finishBefore: int|null, finishAfter: int|null, deadline: int|null, shift: int|null, margin: int|null, minutesPerDay: int}>  $projects
     *                                                                                                                                                                  touched projects by uid; shift of the finish and margin to the deadline in working minutes of the project's calendar
     * @param  list<array{uid: string, label: string, name: string, startBefore: int, startAfter: int, finishBefore: int, finishAfter: int}>  $moved  largest moves first
     * @param  list<array{uid: string, label: string}>  $risks  handovers at risk or late now that were not before
     */
    private function __construct(
        public int $movedActivities,
        public array $projects,
        public array $moved,
        public array $risks,
    ) {
    }

    /** @param  Schedule  $schedule  as it is after the change */
    public static function between(Snapshot $before, Snapshot $after, Schedule $schedule): self
    {
        $plan = $schedule->plan;
        $count = 0;
        $projects = $moved = $risks = [];
        $empty = static function (string $uid) use ($before, $after, $schedule): array {
            $project = $schedule->plan->projects[$uid];
            $axis = $schedule->network->axes[$schedule->network->axisOf[$project->calendar]];
            [$was, $is, $deadline] = [$before->projects[$uid][0] ?? null, $after->projects[$uid][0] ?? null, $after->projects[$uid][1] ?? null];

            return ['key' => $project->key, 'name' => $project->name, 'moved' => 0, 'turnedCritical' => 0, 'finishBefore' => $was, 'finishAfter' => $is, 'deadline' => $deadline,
                'shift' => $was === null || $is === null ? null : $axis->between($was, $is), 'margin' => $is === null || $deadline === null ? null : $axis->between($is, $deadline), 'minutesPerDay' => $axis->minutesPerDay];
        };
        foreach ($after->activities as $uid => [$project, $start, $finish, $float, $critical]) {
            $was = $before->activities[$uid] ?? null;
            if ($was === null) {
                continue;
            }
            $shifted = $was[1] !== $start || $was[2] !== $finish;
            if (! $shifted && (! $critical || $was[4])) {
                continue;
            }
            $projects[$project] ??= $empty($project);
            $projects[$project]['turnedCritical'] += $critical && ! $was[4] ? 1 : 0;
            if ($shifted) {
                $count++;
                $projects[$project]['moved']++;
                $moved[$uid] = max(abs($finish - $was[2]), abs($start - $was[1]));
            }
        }
        foreach ($after->projects as $uid => [$finish, $deadline]) {
            if (isset($before->projects[$uid]) && $before->projects[$uid] !== [$finish, $deadline]) {
                $projects[$uid] ??= $empty($uid);
            }
        }
        foreach (array_diff_key($after->risks, $before->risks) as $uid => $true) {
            $link = $plan->links[$uid];
            $risks[] = ['uid' => $uid, 'label' => "{$plan->label($link->from)} → {$plan->label($link->to)}"];
        }
        arsort($moved);

        return new self($count, $projects, self::list(array_slice($moved, 0, self::LISTED, true), $before, $after, $plan), $risks);
    }

    /** @return array<string, mixed> with dates as ISO 8601 text */
    public function toArray(): array
    {
        $projects = [];
        foreach ($this->projects as $uid => $p) {
            $projects[] = ['uid' => $uid, 'key' => $p['key'], 'name' => $p['name'], 'moved' => $p['moved'], 'turnedCritical' => $p['turnedCritical'],
                'finishBefore' => Instant::formatOrNull($p['finishBefore']), 'finishAfter' => Instant::formatOrNull($p['finishAfter']),
                'deadline' => Instant::formatOrNull($p['deadline']), 'shift' => $p['shift'], 'margin' => $p['margin'], 'minutesPerDay' => $p['minutesPerDay'],
                'missesDeadline' => $p['deadline'] !== null && $p['finishAfter'] !== null && $p['finishAfter'] > $p['deadline'],
                'missedDeadline' => $p['deadline'] !== null && $p['finishBefore'] !== null && $p['finishBefore'] > $p['deadline']];
        }

        return [
            'movedActivities' => $this->movedActivities,
            'projects' => $projects,
            'moved' => array_map(static fn (array $m): array => [
                'uid' => $m['uid'], 'label' => $m['label'], 'name' => $m['name'],
                'startBefore' => Instant::format($m['startBefore']), 'startAfter' => Instant::format($m['startAfter']),
                'finishBefore' => Instant::format($m['finishBefore']), 'finishAfter' => Instant::format($m['finishAfter']),
            ], $this->moved),
            'risks' => $this->risks,
        ];
    }

    /**
     * @param  array<string, int>  $moved
     * @return list<array{uid: string, label: string, name: string, startBefore: int, startAfter: int, finishBefore: int, finishAfter: int}>
     */
    private static function list(array $moved, Snapshot $before, Snapshot $after, Plan $plan): array
    {
        $list = [];
        foreach (array_keys($moved) as $uid) {
            $list[] = [
                'uid' => $uid, 'label' => $plan->label($uid), 'name' => $plan->activities[$uid]->name,
                'startBefore' => $before->activities[$uid][1], 'startAfter' => $after->activities[$uid][1],
                'finishBefore' => $before->activities[$uid][2], 'finishAfter' => $after->activities[$uid][2],
            ];
        }

        return $list;
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\Names;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\HandoverState;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** What a change set does to computed dates, project by project. */
final readonly class Ripple
{
    /** Moved activities listed by name, the largest moves first; all of them are counted. */
    private const LISTED = 50;

    /**
     * @param array<string, array{key: string, name: string, moved: int, turnedCritical: int, finishBefore: int|null,
     *     finishAfter: int|null, deadline: int|null, shift: int|null, margin: int|null, minutesPerDay: int}> $projects touched
     *     projects by uid; shift of the finish and margin to the deadline in working minutes of the project's calendar
     * @param list<array{uid: string, project: string|null, label: string, name: string, startBefore: int, startAfter: int,
     *     finishBefore: int, finishAfter: int}> $moved largest moves first
     * @param  list<array{uid: string, projects: list<string|null>, label: string}>  $risks  handovers at risk or late now that were not
     *     before
     * @param  array<string, array<string, array{int, int, int, int}>>  $moves  all of them: project uid => activity uid => start
     *     before and after, finish before and after
     */
    private function __construct(
        public int $movedActivities,
        public array $projects,
        public array $moved,
        public array $risks,
        public array $moves,
    ) {
    }

    /** @param  Names|null  $names  of activities outside the plan of the later schedule */
    public static function between(Schedule $before, Schedule $after, ?Names $names = null): self
    {
        $names ??= $after->plan;
        [$n, $d, $was, $old] = [$after->network, $after->dates, $before->network, $before->dates];
        [$endsBefore, $endsAfter] = [self::ends($before), self::ends($after)];
        $projects = $shifts = $moves = [];
        $empty = static function (int $p) use ($n, $endsBefore, $endsAfter): array {
            $axis = $n->axes[$n->home[$p]];
            [$was, $is, $deadline] = [$endsBefore[$n->projectUid[$p]][0] ?? null, $endsAfter[$n->projectUid[$p]][0], $n->deadline[$p]];

            return ['key' => $n->projectKey[$p], 'name' => $n->projectName[$p], 'moved' => 0, 'turnedCritical' => 0,
                'finishBefore' => $was, 'finishAfter' => $is, 'deadline' => $deadline,
                'shift' => $was === null || $is === null ? null : $axis->between($was, $is), 'margin' => $is === null
                    || $deadline === null ? null : $axis->between($is, $deadline), 'minutesPerDay' => $axis->minutesPerDay];
        };
        $sameNodes = $n->uid === $was->uid;
        foreach ($n->project as $i => $p) {
            $j = $sameNodes ? $i : $was->node[$n->uid[$i]] ?? -1;
            if ($j < 0 || $p < 0) {
                continue;
            }
            $shifted = $d->start[$i] !== $old->start[$j] || $d->finish[$i] !== $old->finish[$j];
            $turned = $d->critical[$i] && ! $old->critical[$j];
            if (! $shifted && ! $turned) {
                continue;
            }
            $projects[$p] ??= $empty($p);
            $projects[$p]['turnedCritical'] += $turned ? 1 : 0;
            if ($shifted) {
                $projects[$p]['moved']++;
                $shifts[$i] = max(abs($d->finish[$i] - $old->finish[$j]), abs($d->start[$i] - $old->start[$j]));
                $moves[$n->projectUid[$p]][$n->uid[$i]] = [$old->start[$j], $d->start[$i], $old->finish[$j], $d->finish[$i]];
            }
        }
        foreach ($n->projectUid as $p => $uid) {
            if (isset($endsBefore[$uid]) && $endsBefore[$uid] !== $endsAfter[$uid]) {
                $projects[$p] ??= $empty($p);
            }
        }
        arsort($shifts);
        $listed = array_keys(array_slice($shifts, 0, self::LISTED, true));
        $risks = array_diff_key(self::risks($after), self::risks($before));
        $names->expect([...array_map(static fn (int $i): string => $n->uid[$i], $listed), ...array_merge(...array_column($risks, 0))]);
        $moved = [];
        foreach ($listed as $i) {
            $uid = $n->uid[$i];
            $j = $was->node[$uid];
            $moved[] = ['uid' => $uid, 'project' => $n->project[$i] < 0 ? null : $n->projectUid[$n->project[$i]],
                'label' => $names->label($uid), 'name' => $names->name($uid),
                'startBefore' => $old->start[$j], 'startAfter' => $d->start[$i], 'finishBefore' => $old->finish[$j],
                'finishAfter' => $d->finish[$i]];
        }
        $byUid = [];
        foreach ($projects as $p => $facts) {
            $byUid[$n->projectUid[$p]] = $facts;
        }

        uasort($byUid, static fn (array $a, array $b): int => strcmp($a['key'], $b['key']));

        return new self(count($shifts), $byUid, $moved, array_map(
            static fn (string $link, array $risk): array => ['uid' => $link, 'projects' => $risk[1],
                'label' => "{$names->label($risk[0][0])} → {$names->label($risk[0][1])}"], array_map(strval(...), array_keys($risks)),
            array_values($risks)), $moves);
    }

    /** @return array<string, array{int|null, int|null}> project uid => latest finish (hammocks too), deadline */
    private static function ends(Schedule $schedule): array
    {
        $n = $schedule->network;
        $latest = [];
        foreach ($n->project as $i => $p) {
            if ($p >= 0 && $schedule->dates->finish[$i] > ($latest[$p] ?? PHP_INT_MIN)) {
                $latest[$p] = $schedule->dates->finish[$i];
            }
        }
        $ends = [];
        foreach ($n->projectUid as $p => $uid) {
            $ends[$uid] = [$latest[$p] ?? null, $n->deadline[$p]];
        }

        return $ends;
    }

    /**
     * @return array<string, array{list{string, string}, list<string|null>}> uid of a handover at risk or late => its activities, their
     *     projects
     */
    private static function risks(Schedule $schedule): array
    {
        $n = $schedule->network;
        $risks = [];
        foreach ($n->from as $k => $i) {
            if ($n->project[$i] !== $n->project[$n->to[$k]]
                && in_array(Handover::of($n, $schedule->dates, $k)->state, [HandoverState::AtRisk, HandoverState::Late], true)) {
                $risks[$n->linkUid[$k]] = [[$n->uid[$i], $n->uid[$n->to[$k]]],
                    array_map(static fn (int $p): ?string => $p < 0 ? null : $n->projectUid[$p],
                        [$n->project[$i], $n->project[$n->to[$k]]])];
            }
        }

        return $risks;
    }

    /** @return array<string, mixed> with dates as ISO 8601 text */
    public function toArray(): array
    {
        $projects = [];
        foreach ($this->projects as $uid => $p) {
            $projects[] = ['uid' => $uid, 'key' => $p['key'], 'name' => $p['name'], 'moved' => $p['moved'],
                'turnedCritical' => $p['turnedCritical'],
                'finishBefore' => Instant::formatOrNull($p['finishBefore']), 'finishAfter' => Instant::formatOrNull($p['finishAfter']),
                'deadline' => Instant::formatOrNull($p['deadline']), 'shift' => $p['shift'], 'margin' => $p['margin'],
                'minutesPerDay' => $p['minutesPerDay'],
                'missesDeadline' => $p['deadline'] !== null && $p['finishAfter'] !== null && $p['finishAfter'] > $p['deadline'],
                'missedDeadline' => $p['deadline'] !== null && $p['finishBefore'] !== null && $p['finishBefore'] > $p['deadline']];
        }

        return [
            'movedActivities' => $this->movedActivities,
            'projects' => $projects,
            'moved' => array_map(static fn (array $m): array => [
                'uid' => $m['uid'], 'project' => $m['project'], 'label' => $m['label'], 'name' => $m['name'],
                'startBefore' => Instant::format($m['startBefore']), 'startAfter' => Instant::format($m['startAfter']),
                'finishBefore' => Instant::format($m['finishBefore']), 'finishAfter' => Instant::format($m['finishAfter']),
            ], $this->moved),
            'risks' => $this->risks,
        ];
    }
}

<?php

declare(strict_types=1);

namespace App\Board;

use App\Planning\ActivityNames;
use App\Resources\Holders;
use Reihe\Core\Schedule\FloatPath;
use Reihe\Core\Schedule\Reason;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Schedule\Wait;

/** Reasons, traces and float paths as one user may see them: activities of projects out of reach stay unnamed. */
final readonly class ReasonView
{
    /** @param  array<string, int>  $visible  uids of projects within reach => id */
    public function __construct(private Schedule $schedule, private array $visible, private ActivityNames $names = new ActivityNames)
    {
    }

    /**
     * Activities of a chain with why each lies there.
     *
     * @param  list<string>  $uids
     * @return list<array<string, mixed>>
     */
    public function steps(array $uids): array
    {
        $this->names->expect($uids);

        return array_map($this->step(...), $uids);
    }

    /** @return array<string, mixed> */
    public function reasons(string $uid): array
    {
        $reasons = Reasons::of($this->schedule, $uid);
        $this->names->expect(array_values(array_filter(array_map(static fn (Reason $r): ?string => $r->from, $reasons->reasons))));

        return [
            'waiting' => $reasons->waiting,
            'reasons' => array_map(fn (Reason $r): array => ['kind' => $r->kind, 'moment' => $r->moment, 'link' => $this->link($r)],
                $reasons->reasons),
            'waits' => array_map(static fn (Wait $w): array => ['kind' => $w->kind, 'from' => $w->from, 'to' => $w->to,
                'minutes' => $w->minutes, 'name' => $w->name, 'day' => $w->day], $reasons->waits),
        ];
    }

    /**
     * Who has what the activity waits for while levelling holds it back.
     *
     * @return list<array<string, mixed>>
     */
    public function holders(string $uid): array
    {
        $held = array_values(array_filter(Reasons::of($this->schedule, $uid)->waits, static fn (Wait $w): bool => $w->kind === 'level'));
        $holders = $held === [] ? [] : Holders::of($uid, $held[0]->from, $held[0]->to, $this->schedule);
        $this->names->expect(array_column($holders, 'activity'));

        return array_map(fn (array $h): array => ['resource' => $h['name'], 'finish' => $h['finish']]
            + $this->named($h['activity']), $holders);
    }

    /**
     * An activity of a chain with why it lies there.
     *
     * @return array<string, mixed>
     */
    private function step(string $uid): array
    {
        $dates = $this->schedule->activity($uid);

        return $this->named($uid) + ['start' => $dates->earlyStart, 'finish' => $dates->earlyFinish, 'critical' => $dates->critical] +
            $this->reasons($uid);
    }

    /** @return array<string, mixed> */
    public function path(FloatPath $path): array
    {
        $this->names->expect($path->activities);

        return ['float' => $path->float, 'day' => $path->day, 'joins' => $path->joins === null ? null : $this->named($path->joins),
            'activities' => array_map($this->named(...), $path->activities)];
    }

    /** @return array{uid: string|null, project: string|null, label: string|null, name: string|null} */
    private function named(string $uid): array
    {
        $found = $this->names->find($uid);
        if ($found === null || ! isset($this->visible[$found['project']])) {
            return ['uid' => null, 'project' => null, 'label' => null, 'name' => null];
        }

        return ['uid' => $uid, 'project' => $found['key'], 'label' => "{$found['key']}/{$found['code']}", 'name' => $found['name']];
    }

    /** @return array<string, mixed>|null */
    private function link(Reason $reason): ?array
    {
        if ($reason->link === null || $reason->from === null) {
            return null;
        }
        $from = $this->named($reason->from);

        return ['uid' => $from['uid'] === null ? null : $reason->link, 'type' => $reason->type?->value, 'lag' => $reason->lag,
            'day' => $reason->day,
            'from' => $from['uid'], 'label' => $from['label'], 'name' => $from['name']];
    }
}

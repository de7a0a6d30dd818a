<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Stub;

/** Some projects of a schedule as a plan of their own; handovers to the others end in stubs with their present dates. */
final class Extract
{
    /**
     * @param  array<string, true>  $projects  uids to keep
     * @param  array<string, true>  $named  uids of projects whose activities may be named in stubs
     * @param  int|null  $asOf  moment to write on the stubs
     * @param  string  $salt secret of the recipient: what they may not name gets a uid that depends on it, the same in every extract for
     *     them
     */
    public static function of(Schedule $schedule, array $projects, array $named, string $source = '', ?int $asOf = null,
        string $salt = ''): Plan
    {
        $plan = $schedule->plan;
        $n = $schedule->network;
        $kept = array_map(static fn (Project $p): Project => $p->withoutBranch(),
            array_filter($plan->projects, static fn (string $uid): bool => isset($projects[$uid]), ARRAY_FILTER_USE_KEY));
        $activities = array_filter($plan->activities, static fn ($a): bool => isset($projects[$a->project]));
        $links = $stubs = [];
        foreach ($plan->links as $uid => $link) {
            $from = isset($activities[$link->from]);
            $to = isset($activities[$link->to]);
            if (! $from && ! $to) {
                continue;
            }
            if (! $from || ! $to) {
                $far = $from ? $link->to : $link->from;
                $dates = $schedule->activity($far);
                $seen = isset($named[$n->projectUid[$n->project[$n->node[$far]]] ?? '']);
                $alias = $seen ? $far : 'e-'.substr(hash('sha256', "{$salt} {$far}"), 0, 30);
                $link = $from ? $link->between($link->from, $alias) : $link->between($alias, $link->to);
                $outside = ($plan->activities[$far] ?? null)?->outside;
                $stubs[$alias] ??= new Stub($alias, $seen ? $plan->label($far) : 'ELSEWHERE/'.(count($stubs) + 1),
                    $seen ? $plan->name($far) : '',
                    $dates->earlyStart, $dates->earlyFinish, $outside->source ?? $source, $outside === null
                        || $outside->outsideStart === null ? $asOf : $outside->asOf);
            }
            $links[$uid] = $link;
        }

        $objects = ['calendar' => self::calendars($plan, $kept, $activities), 'project' => $kept, 'activity' => $activities,
            'link' => $links];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] ??= array_filter($plan->all($kind),
                static fn (string $uid): bool => isset($projects[$plan->ownerOf($kind, $uid) ?? '']), ARRAY_FILTER_USE_KEY);
        }

        return Plan::from(self::codeSets($plan, $objects) + $objects, $stubs);
    }

    /**
     * @param  array<string, array<string, \Reihe\Core\Plan\Entity>>  $objects
     * @return array<string, array<string, \Reihe\Core\Plan\Entity>> the entries in use, those above them and their sets
     */
    private static function codeSets(Plan $plan, array $objects): array
    {
        $entries = $sets = [];
        foreach ($objects['coding'] as $coding) {
            for ($at = $coding instanceof Coding ? $coding->entry : null; $at !== null
                && ! isset($entries[$at]); $at = $plan->entries[$at]->parent) {
                $entries[$at] = true;
                $sets[$plan->entries[$at]->codeSet] = true;
            }
        }

        return ['entry' => array_intersect_key($plan->entries, $entries), 'codeSet' => array_intersect_key($plan->codeSets, $sets)];
    }

    /**
     * @param  array<string, \Reihe\Core\Plan\Project>  $projects
     * @param  array<string, \Reihe\Core\Plan\Activity>  $activities
     * @return array<string, Calendar> those in use and their bases
     */
    private static function calendars(Plan $plan, array $projects, array $activities): array
    {
        $used = [];
        foreach ([...array_values($projects), ...array_values($activities)] as $user) {
            for ($at = $user->calendar; $at !== null && ! isset($used[$at]); $at = $plan->calendars[$at]->base) {
                $used[$at] = true;
            }
        }

        return array_intersect_key($plan->calendars, $used);
    }
}

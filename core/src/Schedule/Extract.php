<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
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

        $objects = ['project' => $kept, 'activity' => $activities, 'link' => $links];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] ??= array_filter($plan->all($kind),
                static fn (string $uid): bool => isset($projects[$plan->ownerOf($kind, $uid) ?? '']), ARRAY_FILTER_USE_KEY);
        }

        return Plan::from(self::used($plan, $objects), $stubs);
    }

    /**
     * Objects with what they use of the enterprise, and what that uses: calendars with their bases, entries with those above them and
     * their sets, own fields, level schemes with their codes.
     *
     * @param  array<string, array<string, Entity>>  $objects
     * @return array<string, array<string, Entity>>
     */
    private static function used(Plan $plan, array $objects): array
    {
        $found = [];
        $new = $objects;
        while (array_filter($new) !== []) {
            $wanted = [];
            foreach ($new as $kind => $all) {
                foreach (EntityKind::from($kind)->entry()->references as $reference) {
                    if ($reference->to->entry()->owner !== Owner::Enterprise || $reference->to === EntityKind::Branch) {
                        continue;
                    }
                    foreach ($all as $object) {
                        $uid = Catalogue::value($object, $reference->field);
                        is_string($uid) ? $wanted[$reference->to->value][$uid] = true : null;
                    }
                }
            }
            $schemes = $new[EntityKind::LevelScheme->value] ?? [];
            foreach ($schemes === [] ? [] : $plan->levelCodes as $uid => $code) {
                isset($schemes[$code->scheme]) ? $wanted[EntityKind::LevelCode->value][$uid] = true : null;
            }
            $new = [];
            foreach ($wanted as $kind => $uids) {
                $new[$kind] = array_diff_key(array_intersect_key($plan->all(EntityKind::from($kind)), $uids), $found[$kind] ?? []);
                $found[$kind] = ($found[$kind] ?? []) + $new[$kind];
            }
        }
        foreach ($found as $kind => $all) {
            // in the order of the plan
            $objects[$kind] = array_intersect_key($plan->all(EntityKind::from($kind)), $all);
        }

        return $objects;
    }
}

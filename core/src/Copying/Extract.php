<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Stub;

/** Some rows of a project by themselves: what they are linked with outside stands as stubs. */
final class Extract
{
    /**
     * @param  list<string>  $wbs  elements that are wanted with everything below them
     * @param  list<string>  $activities  that are wanted besides
     */
    public static function of(Plan $plan, string $project, array $wbs, array $activities): Plan
    {
        $elements = array_fill_keys($wbs, true);
        do {
            $before = count($elements);
            foreach ($plan->wbs as $uid => $element) {
                if ($element->project === $project && isset($elements[$element->parent ?? ''])) {
                    $elements[$uid] = true;
                }
            }
        } while (count($elements) > $before);
        $wanted = array_fill_keys($activities, true);
        $objects = $stubs = [];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] = $kind->entry()->ownedThrough === null && $kind !== EntityKind::Project ? $plan->all($kind) : [];
        }
        $objects['project'] = [$project => $plan->projects[$project]];
        foreach ($plan->wbs as $uid => $element) {
            if (isset($elements[$uid]) && $element->project === $project) {
                $objects['wbs'][$uid] = isset($elements[$element->parent ?? '']) ? $element
                    : EntityKind::Wbs->read((string) $uid, ['parent' => null] + $element->fields());
            }
        }
        foreach ($plan->activities as $uid => $activity) {
            $inside = isset($elements[$activity->wbs ?? '']);
            if ($activity->project === $project && ($inside || isset($wanted[$uid]))) {
                $objects['activity'][$uid] = $inside ? $activity
                    : EntityKind::Activity->read((string) $uid, ['wbs' => null] + $activity->fields());
            }
        }
        foreach ($plan->links as $uid => $link) {
            $ends = array_filter([$link->from, $link->to], static fn (string $end): bool => isset($objects['activity'][$end]));
            foreach ($ends === [] ? [] : array_diff([$link->from, $link->to], $ends) as $end) {
                $stubs[$end] = new Stub($end, $plan->label($end), $plan->name($end), 0, 0);
            }
            $ends === [] ?: $objects['link'][$uid] = $link;
        }
        foreach (EntityKind::inProjects() as $kind) {
            if (in_array($kind, [EntityKind::Wbs, EntityKind::Activity, EntityKind::Link], true)) {
                continue;
            }
            foreach ($plan->all($kind) as $uid => $object) { // what stands on rows that come along; what the project has does not
                foreach (['activity', 'wbs', 'link'] as $of) {
                    $on = Catalogue::value($object, $of);
                    if (is_string($on) && isset($objects[$of][$on])) {
                        $objects[$kind->value][$uid] = $object;
                    }
                }
            }
        }

        return Plan::from($objects, $stubs);
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Do the parts of a plan fit together? Every complaint names object and field. */
final class PlanCheck
{
    /** @throws InvalidPlan for the first thing that does not fit */
    public static function of(Plan $plan): void
    {
        self::projects($plan);
        self::wbs($plan);
        self::activities($plan);
        self::links($plan);
    }

    private static function projects(Plan $plan): void
    {
        $keys = [];
        foreach ($plan->calendars as $calendar) {
            if (isset($keys[$calendar->key])) {
                throw new InvalidPlan(EntityKind::Calendar, $calendar->uid, $calendar->key, 'key', 'is taken by another calendar');
            }
            $keys[$calendar->key] = true;
        }
        self::bases($plan);
        $keys = [];
        foreach ($plan->projects as $project) {
            if (! isset($plan->calendars[$project->calendar])) {
                throw new InvalidPlan(EntityKind::Project, $project->uid, $project->key, 'calendar', 'does not exist');
            }
            if (isset($keys[$project->key])) {
                throw new InvalidPlan(EntityKind::Project, $project->uid, $project->key, 'key', 'is taken by another project');
            }
            $keys[$project->key] = true;
        }
    }

    /** Bases must exist and never lead back, whether anything uses the calendar or not. */
    private static function bases(Plan $plan): void
    {
        $sound = [];
        foreach ($plan->calendars as $calendar) {
            $path = [];
            for ($at = $calendar; $at !== null && ! isset($sound[$at->uid]); $at = $at->base === null ? null : $plan->calendars[$at->base]) {
                if (isset($path[$at->uid])) {
                    throw new InvalidPlan(EntityKind::Calendar, $calendar->uid, $calendar->key, 'base', 'leads back to the calendar itself');
                }
                $path[$at->uid] = true;
                if ($at->base !== null && ! isset($plan->calendars[$at->base])) {
                    throw new InvalidPlan(EntityKind::Calendar, $at->uid, $at->key, 'base', 'does not exist');
                }
            }
            $sound += $path;
        }
    }

    private static function wbs(Plan $plan): void
    {
        $sound = [];
        foreach ($plan->wbs as $element) {
            $path = [];
            for ($at = $element; ! isset($sound[$at->uid]); $at = $plan->wbs[$at->parent]) {
                if (isset($path[$at->uid])) {
                    throw new InvalidPlan(EntityKind::Wbs, $element->uid, $element->name, 'parent', 'lies inside the element itself');
                }
                $path[$at->uid] = true;
                if (! isset($plan->projects[$at->project])) {
                    throw new InvalidPlan(EntityKind::Wbs, $at->uid, $at->name, 'project', 'does not exist');
                }
                if ($at->parent === null) {
                    break;
                }
                if (! isset($plan->wbs[$at->parent])) {
                    throw new InvalidPlan(EntityKind::Wbs, $at->uid, $at->name, 'parent', 'does not exist');
                }
                if ($plan->wbs[$at->parent]->project !== $at->project) {
                    throw new InvalidPlan(EntityKind::Wbs, $at->uid, $at->name, 'parent', 'lies in another project');
                }
            }
            $sound += $path;
        }
    }

    private static function activities(Plan $plan): void
    {
        $codes = [];
        foreach ($plan->activities as $activity) {
            $project = $plan->projects[$activity->project] ?? null;
            if ($project === null) {
                throw new InvalidPlan(EntityKind::Activity, $activity->uid, $activity->code, 'project', 'does not exist');
            }
            $label = "{$project->key}/{$activity->code}";
            if (isset($codes[$label])) {
                throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, 'code', 'is taken by another activity of the project');
            }
            $codes[$label] = true;
            if ($activity->wbs !== null && ($plan->wbs[$activity->wbs] ?? null)?->project !== $activity->project) {
                throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, 'wbs', 'is not a WBS element of its project');
            }
            if ($activity->calendar !== null && ! isset($plan->calendars[$activity->calendar])) {
                throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, 'calendar', 'does not exist');
            }
            foreach (['actualStart' => $activity->actualStart, 'actualFinish' => $activity->actualFinish, 'suspend' => $activity->suspend] as $field => $date) {
                if ($date !== null && $project->statusDate === null) {
                    throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, $field, 'needs a status date of the project');
                }
                if ($date !== null && $date > $project->statusDate) {
                    throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, $field, 'lies after the status date of the project');
                }
            }
        }
    }

    private static function links(Plan $plan): void
    {
        $seen = [];
        foreach ($plan->links as $link) {
            foreach (['from' => $link->from, 'to' => $link->to] as $field => $end) {
                if (isset($plan->wbs[$end])) {
                    throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), $field, 'is a WBS element; links join activities');
                }
                if (! isset($plan->activities[$end]) && ! isset($plan->stubs[$end])) {
                    throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), $field, 'does not exist');
                }
            }
            $once = "{$link->from} {$link->to} {$link->type->value}";
            if (isset($seen[$once])) {
                throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), 'type', 'joins these two activities already');
            }
            $seen[$once] = true;
            if ($link->agreed !== null && ! $plan->isHandover($link)) {
                throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), 'agreed', 'belongs to a handover; both activities lie in one project');
            }
        }
    }

    private static function linkLabel(Plan $plan, Link $link): string
    {
        return "{$plan->label($link->from)} {$link->type->value} {$plan->label($link->to)}";
    }
}

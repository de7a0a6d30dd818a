<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Do the parts of a plan fit together? Every complaint names object and field. */
final class PlanCheck
{
    /** kinds with a check of their own */
    private const CLOSELY = [EntityKind::Wbs, EntityKind::Activity, EntityKind::Assignment, EntityKind::Link, EntityKind::Coding,
        EntityKind::OwnValue, EntityKind::Foreign];

    /**
     * @param  bool  $isStored  it was let in before: values that do not fit their own field any more are findings then, and the plan
     *     is calculated without them
     *
     * @throws InvalidPlan for the first thing that does not fit
     */
    public static function of(Plan $plan, bool $isStored = false): void
    {
        self::enterprise($plan);
        self::projects($plan);
        self::wbs($plan);
        self::activities($plan);
        self::links($plan);
        self::references($plan);
        self::remarks($plan);
        self::assignments($plan);
        self::codings($plan);
        self::ownValues($plan, $isStored);
        self::foreignContents($plan);
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
        $keys = [];
        foreach ($plan->projects as $project) {
            if (! isset($plan->calendars[$project->calendar])) {
                throw new InvalidPlan(EntityKind::Project, $project->uid, $project->key, 'calendar', 'does not exist');
            }
            if ($project->levelScheme !== null && ! isset($plan->levelSchemes[$project->levelScheme])) {
                throw new InvalidPlan(EntityKind::Project, $project->uid, $project->key, 'levelScheme', 'does not exist');
            }
            if ($project->branch !== null && ! isset($plan->branches[$project->branch])) {
                throw new InvalidPlan(EntityKind::Project, $project->uid, $project->key, 'branch', 'does not exist');
            }
            if (isset($keys[$project->key])) {
                throw new InvalidPlan(EntityKind::Project, $project->uid, $project->key, 'key', 'is taken by another project');
            }
            $keys[$project->key] = true;
        }
    }

    /**
     * What stands above must exist and never lead back, whether anything uses it or not.
     *
     * @param  string  $field  that refers to an object of the same kind
     */
    private static function above(Plan $plan, EntityKind $kind, string $field, string $why): void
    {
        $objects = $plan->all($kind);
        $sound = [];
        foreach ($objects as $object) {
            $path = [];
            for ($at = $object; ! isset($sound[$at->uid()]); $at = $objects[$above]) {
                if (isset($path[$at->uid()])) {
                    throw new InvalidPlan($kind, $object->uid(), $plan->callName($kind, $object->uid()), $field, $why);
                }
                $path[$at->uid()] = true;
                $above = Catalogue::value($at, $field);
                if (! is_string($above)) {
                    break;
                }
                if (! isset($objects[$above])) {
                    throw new InvalidPlan($kind, $at->uid(), $plan->callName($kind, $at->uid()), $field, 'does not exist');
                }
            }
            $sound += $path;
        }
    }

    private static function wbs(Plan $plan): void
    {
        self::above($plan, EntityKind::Wbs, 'parent', 'lies inside the element itself');
        foreach ($plan->wbs as $element) {
            if (! isset($plan->projects[$element->project])) {
                throw new InvalidPlan(EntityKind::Wbs, $element->uid, $element->name, 'project', 'does not exist');
            }
            if ($element->parent !== null && $plan->wbs[$element->parent]->project !== $element->project) {
                throw new InvalidPlan(EntityKind::Wbs, $element->uid, $element->name, 'parent', 'lies in another project');
            }
        }
    }

    /** The hierarchy has one root; names and keys are unique where people look for them. */
    private static function enterprise(Plan $plan): void
    {
        self::above($plan, EntityKind::Calendar, 'base', 'leads back to the calendar itself');
        self::above($plan, EntityKind::Branch, 'parent', 'lies below the branch itself');
        self::above($plan, EntityKind::Entry, 'parent', 'lies below the entry itself');
        self::above($plan, EntityKind::LevelCode, 'parent', 'lies below the code itself');
        $seen = [];
        $once = static function (Entity $object, EntityKind $kind, string $field, string $value, string $why) use ($plan, &$seen): void {
            $key = "{$kind->value} {$field} {$value}";
            if (isset($seen[$key])) {
                throw new InvalidPlan($kind, $object->uid(), $plan->callName($kind, $object->uid()), $field, $why);
            }
            $seen[$key] = true;
        };
        foreach ($plan->branches as $branch) {
            $branch->parent !== null ?: $once($branch, EntityKind::Branch, 'parent', '', 'is missing; the hierarchy has one root');
            $once($branch, EntityKind::Branch, 'name', "{$branch->parent} {$branch->name}",
                'is taken by another branch of the same parent');
        }
        foreach ($plan->codeSets as $set) {
            $once($set, EntityKind::CodeSet, 'key', "{$set->scope->value} {$set->key}", 'is taken by another code set');
            $once($set, EntityKind::CodeSet, 'name', "{$set->scope->value} {$set->name}", 'is taken by another code set');
        }
        foreach ($plan->resources as $resource) {
            $once($resource, EntityKind::Resource, 'key', $resource->key, 'is taken by another resource');
            if ($resource->calendar !== null && ! isset($plan->calendars[$resource->calendar])) {
                throw new InvalidPlan(EntityKind::Resource, $resource->uid, $resource->title(), 'calendar', 'does not exist');
            }
        }
        foreach ($plan->levelSchemes as $scheme) {
            $once($scheme, EntityKind::LevelScheme, 'key', $scheme->key, 'is taken by another level scheme');
        }
        foreach ($plan->levelCodes as $code) {
            if (! isset($plan->levelSchemes[$code->scheme])) {
                throw new InvalidPlan(EntityKind::LevelCode, $code->uid, $code->code, 'scheme', 'does not exist');
            }
            $above = $code->parent === null ? null : $plan->levelCodes[$code->parent];
            if ($above !== null && ($above->scheme !== $code->scheme || $above->level !== $code->level - 1)) {
                throw new InvalidPlan(EntityKind::LevelCode, $code->uid, $code->code, 'parent', 'is not one of the level above it');
            }
            $once($code, EntityKind::LevelCode, 'code', "{$code->scheme} {$code->level} {$code->parent} {$code->code}",
                'is there already in this place');
        }
        foreach ($plan->ownFields as $field) {
            $once($field, EntityKind::OwnField, 'key', "{$field->scope->value} {$field->key}", 'is taken by another own field');
            $once($field, EntityKind::OwnField, 'name', "{$field->scope->value} {$field->name}", 'is taken by another own field');
        }
        foreach ($plan->entries as $entry) {
            if (! isset($plan->codeSets[$entry->codeSet])) {
                throw new InvalidPlan(EntityKind::Entry, $entry->uid, $entry->name, 'codeSet', 'does not exist');
            }
            if ($entry->parent !== null && $plan->entries[$entry->parent]->codeSet !== $entry->codeSet) {
                throw new InvalidPlan(EntityKind::Entry, $entry->uid, $plan->entryName($entry->uid), 'parent',
                    'belongs to another code set');
            }
            $longest = $plan->codeSets[$entry->codeSet]->keyLength;
            if ($longest !== null && mb_strlen($entry->key) > $longest) {
                throw new InvalidPlan(EntityKind::Entry, $entry->uid, $plan->entryName($entry->uid), 'key',
                    "{$entry->key} is longer than the {$longest} characters that its set allows");
            }
            $once($entry, EntityKind::Entry, 'key', "{$entry->codeSet} {$entry->key}", 'is taken by another entry of the set');
            $once($entry, EntityKind::Entry, 'name', "{$entry->codeSet} {$entry->parent} {$entry->name}",
                'is taken by another entry beside it');
        }
    }

    /** An object has entries of sets for its kind, one of a set or, where the set allows it, several different ones. */
    private static function codings(Plan $plan): void
    {
        $seen = [];
        foreach ($plan->codings as $coding) {
            $invalid = static fn (string $field, string $why): InvalidPlan => new InvalidPlan(EntityKind::Coding, $coding->uid,
                $plan->callName(EntityKind::Coding, $coding->uid), $field, $why);
            if (! isset($plan->projects[$coding->project])) {
                throw $invalid('project', 'does not exist');
            }
            if ($coding->activity !== null && $plan->projectOf($coding->activity) !== $coding->project) {
                throw $invalid('activity', 'is not an activity of its project');
            }
            $entry = $plan->entries[$coding->entry] ?? throw $invalid('entry', 'does not exist');
            $set = $plan->codeSets[$entry->codeSet];
            if ($set->scope !== $coding->scope()) {
                throw $invalid('entry', "belongs to a code set for {$set->scope->plural()}");
            }
            $once = ($coding->activity ?? $coding->project).' '.($set->multiple ? $entry->uid : $set->uid);
            if (isset($seen[$once])) {
                throw $invalid('entry', $set->multiple ? 'is there already' : 'is a second one of the same code set');
            }
            $seen[$once] = true;
        }
    }

    /**
     * Do values fit their own fields?
     *
     * @param  iterable<OwnValue>  $values  of the plan
     *
     * @throws InvalidPlan
     */
    public static function values(Plan $plan, iterable $values): void
    {
        foreach ($values as $value) {
            $field = $plan->ownFields[$value->field] ?? null;
            $why = match (true) {
                $field === null => null,
                $field->scope !== ($value->activity === null ? CodeScope::Project : CodeScope::Activity) => [
                    'field', "is one of {$field->scope->plural()}"],
                default => ['value', $field->fault($value->value)],
            };
            if (isset($why[1])) {
                throw new InvalidPlan(EntityKind::OwnValue, $value->uid, $plan->callName(EntityKind::OwnValue, $value->uid), $why[0],
                    $why[1]);
            }
        }
    }

    /** An object has one value of an own field of its kind. */
    private static function ownValues(Plan $plan, bool $isStored): void
    {
        $seen = [];
        foreach ($plan->ownValues as $value) {
            $invalid = static fn (string $field, string $why): InvalidPlan => new InvalidPlan(EntityKind::OwnValue, $value->uid,
                $plan->callName(EntityKind::OwnValue, $value->uid), $field, $why);
            if (! isset($plan->projects[$value->project])) {
                throw $invalid('project', 'does not exist');
            }
            if ($value->activity !== null && $plan->projectOf($value->activity) !== $value->project) {
                throw $invalid('activity', 'is not an activity of its project');
            }
            $field = $plan->ownFields[$value->field] ?? throw $invalid('field', 'does not exist');
            $isStored ?: self::values($plan, [$value]);
            $once = ($value->activity ?? $value->project)." {$field->uid}";
            if (isset($seen[$once])) {
                throw $invalid('field', 'has a value already');
            }
            $seen[$once] = true;
        }
    }

    private static function foreignContents(Plan $plan): void
    {
        $seen = [];
        foreach ($plan->foreignContents as $content) {
            $invalid = static fn (string $field, string $why): InvalidPlan => new InvalidPlan(EntityKind::Foreign, $content->uid,
                $plan->callName(EntityKind::Foreign, $content->uid), $field, $why);
            if (! isset($plan->projects[$content->project])) {
                throw $invalid('project', 'does not exist');
            }
            foreach (['wbs' => [$content->wbs, $plan->wbs], 'activity' => [$content->activity, $plan->activities]] as $field => [$of,
                $all]) {
                if ($of !== null && ! isset($all[$of])) {
                    throw $invalid($field, 'does not exist');
                }
                if ($of !== null && $all[$of]->project !== $content->project) {
                    throw $invalid($field, 'lies in another project');
                }
            }
            $once = "{$content->of()} {$content->format->value}";
            if (isset($seen[$once])) {
                throw $invalid('format', 'has foreign content already');
            }
            $seen[$once] = true;
        }
    }

    private static function assignments(Plan $plan): void
    {
        $seen = [];
        foreach ($plan->assignments as $assignment) {
            $activity = $plan->activities[$assignment->activity] ?? null;
            $why = match (true) {
                $activity === null => 'does not exist',
                $activity->kind === Kind::Hammock => 'is a hammock, which takes no work',
                isset($seen["{$assignment->activity} {$assignment->resource}"]) => $assignment->resource === null
                    ? 'has work without a resource already' : "has {$plan->callName(EntityKind::Resource, $assignment->resource)} already",
                default => null,
            };
            $resource = $assignment->resource === null ? null : $plan->resources[$assignment->resource] ?? null;
            $field = match (true) {
                $assignment->resource === null => null,
                $resource === null => ['resource', 'does not exist'],
                $resource->isMaterial() && $assignment->work() !== null => ['remainingWork', 'is none of a material'],
                $resource->isMaterial() && $assignment->intensity !== null => ['intensity', 'is none of a material'],
                ! $resource->isMaterial() && $assignment->quantity !== null => ['quantity', 'belongs to a material'],
                default => null,
            };
            if ($why === null && $field !== null) {
                throw new InvalidPlan(EntityKind::Assignment, $assignment->uid, $plan->label($assignment->activity), $field[0], $field[1]);
            }
            if ($why !== null) {
                throw new InvalidPlan(EntityKind::Assignment, $assignment->uid, $plan->label($assignment->activity), 'activity', $why);
            }
            $seen["{$assignment->activity} {$assignment->resource}"] = true;
        }
    }

    /** What stands on projects and what is in them, apart from what is looked at more closely: what it names is there. */
    private static function references(Plan $plan): void
    {
        foreach (EntityKind::inProjects() as $kind) {
            if (in_array($kind, self::CLOSELY, true)) {
                continue;
            }
            foreach ($plan->all($kind) as $uid => $object) {
                foreach ($kind->entry()->references as $reference) {
                    $to = Catalogue::value($object, $reference->field);
                    if (is_string($to) && $plan->find($reference->to, $to) === null) {
                        throw new InvalidPlan($kind, (string) $uid, $plan->callName($kind, (string) $uid), $reference->field,
                            'does not exist');
                    }
                    if (is_string($to) && $reference !== $kind->entry()->ownedThrough && $reference->to->entry()->owner === Owner::Project
                        && $plan->ownerOf($reference->to, $to) !== $plan->ownerOf($kind, (string) $uid)) {
                        throw new InvalidPlan($kind, (string) $uid, $plan->callName($kind, (string) $uid), $reference->field,
                            'lies in another project');
                    }
                }
            }
        }
    }

    /** A talk is one remark with answers, all about the same: it goes, comes and moves as a whole. */
    private static function remarks(Plan $plan): void
    {
        foreach ($plan->remarks as $uid => $remark) {
            $begun = $remark->answers === null ? null : $plan->remarks[$remark->answers] ?? null;
            $why = match (true) {
                $begun === null => null,
                $begun->answers !== null => 'is an answer itself; name what began the talk',
                $begun->of() !== $remark->of() => 'is about something else',
                default => null,
            };
            if ($why !== null) {
                throw new InvalidPlan(EntityKind::Remark, (string) $uid, $plan->callName(EntityKind::Remark, (string) $uid), 'answers',
                    $why);
            }
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
            if ($project->isOutside() !== ($activity->outside->outsideStart !== null)
                && ! ($project->isOutside() && $activity->isFinished())) {
                throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, 'outsideStart',
                    $project->isOutside() ? 'is missing; the project is kept outside'
                        : 'belongs to activities of projects that are kept outside');
            }
            if ($activity->wbs !== null && ($plan->wbs[$activity->wbs] ?? null)?->project !== $activity->project) {
                throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, 'wbs', 'is not a WBS element of its project');
            }
            if ($activity->calendar !== null && ! isset($plan->calendars[$activity->calendar])) {
                throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, 'calendar', 'does not exist');
            }
            foreach (['actualStart' => $activity->actualStart, 'actualFinish' => $activity->actualFinish,
                'suspend' => $activity->suspend] as $field => $date) {
                if ($date !== null && $project->statusDate === null) {
                    throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, $field, 'needs a status date of the project');
                }
                if ($date !== null && $date > $project->statusDate) {
                    throw new InvalidPlan(EntityKind::Activity, $activity->uid, $label, $field,
                        'lies after the status date of the project');
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
                    throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), $field,
                        'is a WBS element; links join activities');
                }
                if (! isset($plan->activities[$end]) && ! isset($plan->stubs[$end])) {
                    throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), $field, 'does not exist');
                }
            }
            $ends = array_map(static fn (string $end): ?Project => $plan->projects[$plan->activities[$end]->project ?? ''] ?? null,
                [$link->from, $link->to]);
            if (isset($ends[0], $ends[1]) && $ends[0] !== $ends[1] && ($ends[0]->kept === Kept::Fragment
                || $ends[0]->kept->isLive() !== $ends[1]->kept->isLive() || $ends[1]->kept === Kept::Fragment)) {
                throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), 'to',
                    'would join a template or fragment with another project');
            }
            $once = "{$link->from} {$link->to} {$link->type->value}";
            if (isset($seen[$once])) {
                throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), 'type',
                    'joins these two activities already');
            }
            $seen[$once] = true;
            if ($link->agreed !== null && ! $plan->isHandover($link)) {
                throw new InvalidPlan(EntityKind::Link, $link->uid, self::linkLabel($plan, $link), 'agreed',
                    'belongs to a handover; both activities lie in one project');
            }
        }
    }

    private static function linkLabel(Plan $plan, Link $link): string
    {
        return "{$plan->label($link->from)} {$link->type->value} {$plan->label($link->to)}";
    }
}

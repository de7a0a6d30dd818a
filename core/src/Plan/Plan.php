<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\Calendar;

/**
 * The input of a calculation: projects with everything in them, and the calendars they use. Immutable; all lists
 * are keyed by uid. References between the objects are checked by {@see PlanCheck}.
 */
final readonly class Plan
{
    /**
     * @param  array<string, Calendar>  $calendars
     * @param  array<string, Project>  $projects
     * @param  array<string, WbsElement>  $wbs
     * @param  array<string, Activity>  $activities
     * @param  array<string, Link>  $links
     * @param  array<string, Stub>  $stubs
     */
    public function __construct(
        public array $calendars = [],
        public array $projects = [],
        public array $wbs = [],
        public array $activities = [],
        public array $links = [],
        public array $stubs = [],
    ) {
    }

    /**
     * @param  iterable<Entity|Stub>  $parts  in any order
     */
    public static function of(iterable $parts): self
    {
        $lists = ['calendar' => [], 'project' => [], 'wbs' => [], 'activity' => [], 'link' => [], 'stub' => []];
        foreach ($parts as $part) {
            $uid = $part instanceof Stub ? $part->uid : $part->uid();
            $lists[self::listOf($part)][$uid] = $part;
        }

        /** @phpstan-ignore argument.type, argument.type, argument.type, argument.type, argument.type, argument.type */
        return new self($lists['calendar'], $lists['project'], $lists['wbs'], $lists['activity'], $lists['link'], $lists['stub']);
    }

    public function find(EntityKind $kind, string $uid): ?Entity
    {
        return match ($kind) {
            EntityKind::Calendar => $this->calendars[$uid] ?? null,
            EntityKind::Project => $this->projects[$uid] ?? null,
            EntityKind::Wbs => $this->wbs[$uid] ?? null,
            EntityKind::Activity => $this->activities[$uid] ?? null,
            EntityKind::Link => $this->links[$uid] ?? null,
        };
    }

    /** `KEY/CODE` of an activity or stub, the uid when it is unknown. */
    public function label(string $activity): string
    {
        $a = $this->activities[$activity] ?? null;
        if ($a === null) {
            return $this->stubs[$activity]->code ?? $activity;
        }

        return ($this->projects[$a->project]->key ?? '?').'/'.$a->code;
    }

    /** The uid of the project that an activity lies in; null for a stub. */
    public function projectOf(string $activity): ?string
    {
        return ($this->activities[$activity] ?? null)?->project;
    }

    /** Does the link join two projects? A stub counts as another project. */
    public function isHandover(Link $link): bool
    {
        return $this->projectOf($link->from) !== $this->projectOf($link->to);
    }

    private static function listOf(Entity|Stub $part): string
    {
        return match (true) {
            $part instanceof Calendar => 'calendar',
            $part instanceof Project => 'project',
            $part instanceof WbsElement => 'wbs',
            $part instanceof Activity => 'activity',
            $part instanceof Link => 'link',
            default => 'stub',
        };
    }
}

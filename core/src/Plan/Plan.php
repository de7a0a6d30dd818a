<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\Calendar;

/**
 * The input of a calculation: projects with everything in them, and the calendars, hierarchy and code sets they use. Immutable; all lists
 * are keyed by uid. References between the objects are checked by {@see PlanCheck}.
 */
final readonly class Plan implements Names
{
    /**
     * @param  array<string, Calendar>  $calendars
     * @param  array<string, Project>  $projects
     * @param  array<string, WbsElement>  $wbs
     * @param  array<string, Activity>  $activities
     * @param  array<string, Link>  $links
     * @param  array<string, Stub>  $stubs
     * @param  array<string, Remark>  $remarks
     * @param  array<string, CodeSet>  $codeSets
     * @param  array<string, CodeEntry>  $entries
     * @param  array<string, Branch>  $branches
     * @param  array<string, Coding>  $codings
     * @param  array<string, Assignment>  $assignments
     * @param  array<string, OwnField>  $ownFields
     * @param  array<string, OwnValue>  $ownValues
     * @param  array<string, LevelScheme>  $levelSchemes
     * @param  array<string, LevelCode>  $levelCodes
     * @param  array<string, OpenEnd>  $openEnds
     * @param  array<string, Insertion>  $insertions
     * @param  array<string, Foreign>  $foreignContents
     * @param  array<string, Resource>  $resources
     */
    public function __construct(
        public array $calendars = [],
        public array $projects = [],
        public array $wbs = [],
        public array $activities = [],
        public array $links = [],
        public array $stubs = [],
        public array $remarks = [],
        public array $codeSets = [],
        public array $entries = [],
        public array $branches = [],
        public array $codings = [],
        public array $assignments = [],
        public array $ownFields = [],
        public array $ownValues = [],
        public array $levelSchemes = [],
        public array $levelCodes = [],
        public array $openEnds = [],
        public array $insertions = [],
        public array $foreignContents = [],
        public array $resources = [],
    ) {
    }

    /**
     * @param  iterable<Entity|Stub>  $parts  in any order
     */
    public static function of(iterable $parts): self
    {
        $objects = $stubs = [];
        foreach ($parts as $part) {
            if ($part instanceof Stub) {
                $stubs[$part->uid] = $part;
            } else {
                $objects[EntityKind::of($part)->value][$part->uid()] = $part;
            }
        }

        return self::from($objects, $stubs);
    }

    /**
     * @param  array<string, array<string, Entity>>  $objects  kind => uid => object
     * @param  array<string, Stub>  $stubs
     */
    public static function from(array $objects, array $stubs = []): self
    {
        $lists = ['stubs' => $stubs];
        foreach (EntityKind::cases() as $kind) {
            $lists[$kind->entry()->list] = $objects[$kind->value] ?? [];
        }

        /** @phpstan-ignore argument.type */
        return new self(...$lists);
    }

    /** @return array<string, Entity> objects of a kind by uid */
    public function all(EntityKind $kind): array
    {
        /** @var array<string, Entity> */
        return $this->{$kind->entry()->list};
    }

    public function find(EntityKind $kind, string $uid): ?Entity
    {
        return $this->all($kind)[$uid] ?? null;
    }

    /** The uid of the project that has an object; null when there is no such object, or the enterprise has it. */
    public function ownerOf(EntityKind $kind, string $uid): ?string
    {
        $entity = $this->find($kind, $uid);
        $entry = $kind->entry();
        if ($entity === null || $entry->owner === Owner::Enterprise) {
            return null;
        }
        if ($entry->ownedThrough === null) {
            return $uid;
        }
        $above = $this->above($kind, $uid);

        return match (true) {
            $above === null => null,
            $entry->ownedThrough->to === EntityKind::Project => $above,
            default => $this->ownerOf($entry->ownedThrough->to, $above),
        };
    }

    /** @return list<string> uids of the projects that an object lies in: two for a handover, none for one of the enterprise or gone */
    public function homesOf(EntityKind $kind, string $uid): array
    {
        $found = $this->find($kind, $uid);

        return array_values(array_unique(array_filter([$kind === EntityKind::Project ? $uid : $this->ownerOf($kind, $uid),
            $found instanceof Link ? $this->projectOf($found->from) : null], is_string(...))));
    }

    /** The uid of what an object belongs to its project through. */
    private function above(EntityKind $kind, string $uid): ?string
    {
        $entity = $this->find($kind, $uid);
        $field = $kind->entry()->ownedThrough?->field;
        $above = $entity === null || $field === null ? null : Catalogue::value($entity, $field);

        return is_string($above) ? $above : null;
    }

    /** What a sentence calls an object: its key, `KEY/CODE` or name, never its uid. */
    public function nameOf(EntityKind $kind, string $uid): string
    {
        return trim("{$kind->entry()->noun} {$this->callName($kind, $uid)}");
    }

    /** The same without the word for its kind. */
    public function callName(EntityKind $kind, string $uid): string
    {
        $entity = $this->find($kind, $uid);

        return match (true) {
            $entity instanceof Calendar, $entity instanceof Project => $entity->key,
            $entity instanceof CodeSet, $entity instanceof Branch, $entity instanceof OwnField,
            $entity instanceof LevelScheme, $entity instanceof Insertion => $entity->name,
            $entity instanceof Resource => $entity->title(),
            $entity instanceof Assignment => trim(($this->resources[$entity->resource ?? ''] ?? null)?->title()
                ." on {$this->label($entity->activity)}"),
            $entity instanceof LevelCode => "{$entity->code} {$entity->name}",
            $entity instanceof OwnValue => ($this->ownFields[$entity->field]->name ?? '?').' of '.($entity->activity === null
                ? $this->projects[$entity->project]->key ?? '?' : $this->label($entity->activity)),
            $entity instanceof CodeEntry => $this->entryName($uid),
            $entity instanceof WbsElement => trim(($this->projects[$entity->project]->key ?? '')." {$entity->code} {$entity->name}"),
            $entity instanceof Activity => $this->label($uid),
            $entity instanceof Link => "{$this->label($entity->from)} {$entity->type->value} {$this->label($entity->to)}",
            $entity instanceof Coding => "{$this->entryName($entity->entry)} of ".($entity->activity === null
                ? $this->projects[$entity->project]->key ?? '?' : $this->label($entity->activity)),
            $entity instanceof Remark => 'on '.match (true) {
                $entity->activity !== null => $this->label($entity->activity),
                $entity->link !== null => $this->callName(EntityKind::Link, $entity->link),
                $entity->wbs !== null => $this->callName(EntityKind::Wbs, $entity->wbs),
                default => $this->projects[$entity->project]->key ?? '?',
            },
            $entity instanceof Foreign => $entity->activity !== null ? "of {$this->label($entity->activity)}"
                : 'of '.($this->projects[$entity->project]->key ?? '?'),
            is_string($name = $entity === null ? null : Catalogue::value($entity, 'name')) && $name !== '' => $name,
            $kind->entry()->ownedThrough?->to === EntityKind::Activity => "on {$this->label($this->above($kind, $uid) ?? '')}",
            default => '',
        };
    }

    /** `Set: entry` */
    public function entryName(string $entry): string
    {
        $e = $this->entries[$entry] ?? null;

        return $e === null ? 'that is not there' : ($this->codeSets[$e->codeSet]->name ?? '?').": {$e->name}";
    }

    public function label(string $activity): string
    {
        $a = $this->activities[$activity] ?? null;
        if ($a === null) {
            return $this->stubs[$activity]->code ?? 'an activity that is not there';
        }

        return ($this->projects[$a->project]->key ?? '?').'/'.$a->code;
    }

    public function name(string $activity): string
    {
        return ($this->activities[$activity] ?? $this->stubs[$activity] ?? null)->name ?? '';
    }

    public function expect(array $activities): void
    {
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
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;

/**
 * A list of operations and what they make of a plan. Deleting takes along what cannot stay (links of an activity,
 * everything in a WBS element or project); the applied form spells all of that out, so that its inverse is exact.
 */
final class ChangeSet
{
    /** @var array<string, array<string, Entity>> kind => uid => object */
    private array $objects;

    /** @var list<Operation> */
    private array $applied = [];

    private int $position = 0;

    private function __construct(Plan $plan)
    {
        $this->objects = [
            'calendar' => $plan->calendars, 'project' => $plan->projects, 'wbs' => $plan->wbs,
            'activity' => $plan->activities, 'link' => $plan->links,
        ];
    }

    /**
     * @param  list<Operation>  $operations
     *
     * @throws InvalidOperation|Clash
     */
    public static function apply(Plan $plan, array $operations): Applied
    {
        $self = new self($plan);
        foreach ($operations as $position => $operation) {
            $self->position = $position;
            try {
                match ($operation->verb) {
                    Verb::Create => $self->create($operation),
                    Verb::Update => $self->update($operation),
                    Verb::Delete => $self->delete($operation->kind, $operation->uid),
                };
            } catch (InvalidField $e) {
                throw new InvalidOperation($position, $e->field, $e->why);
            } catch (\Reihe\Core\Calendar\InvalidCalendar $e) {
                throw new InvalidOperation($position, null, $e->why);
            }
        }
        $o = $self->objects;

        /** @phpstan-ignore argument.type, argument.type, argument.type, argument.type, argument.type */
        return new Applied(new Plan($o['calendar'], $o['project'], $o['wbs'], $o['activity'], $o['link'], $plan->stubs), $self->applied);
    }

    /**
     * @param  list<Operation>  $applied
     * @return list<Operation> that undo them, in order
     */
    public static function inverse(array $applied): array
    {
        return array_map(static fn (Operation $o): Operation => $o->inverse(), array_reverse($applied));
    }

    private function create(Operation $operation): void
    {
        if (isset($this->objects[$operation->kind->value][$operation->uid])) {
            throw new InvalidOperation($this->position, 'uid', "{$operation->uid} exists already");
        }
        $object = $operation->kind->read($operation->uid, $operation->after ?? []);
        $this->objects[$operation->kind->value][$operation->uid] = $object;
        $this->applied[] = Operation::create($operation->kind, $operation->uid, $object->fields());
    }

    private function update(Operation $operation): void
    {
        $old = $this->object($operation->kind, $operation->uid);
        $fields = $old->fields();
        $before = $after = [];
        foreach ($operation->after ?? [] as $name => $value) {
            $now = $fields[$name] ?? null;
            if (self::same($now, $value)) {
                continue;
            }
            if ($operation->before !== null && array_key_exists($name, $operation->before) && ! self::same($operation->before[$name], $now)) {
                throw new Clash($this->position, $operation->kind, $operation->uid, $name, $value, $now);
            }
            $before[$name] = $now;
            $after[$name] = $value;
        }
        if ($after === []) {
            return;
        }
        $new = $operation->kind->read($operation->uid, $after + $fields);
        if ($old instanceof Activity && $new instanceof Activity && $old->project !== $new->project) {
            throw new InvalidOperation($this->position, 'project', 'an activity cannot change its project');
        }
        $this->objects[$operation->kind->value][$operation->uid] = $new;
        $this->applied[] = Operation::update($operation->kind, $operation->uid, array_intersect_key($new->fields() + $after, $after), $before);
    }

    private function delete(EntityKind $kind, string $uid): void
    {
        $object = $this->object($kind, $uid);
        match ($kind) {
            EntityKind::Activity => $this->deleteWhere(EntityKind::Link, static fn (Entity $l): bool => $l instanceof Link && ($l->from === $uid || $l->to === $uid)),
            EntityKind::Wbs => $this->deleteBelow($uid),
            EntityKind::Project => $this->deleteProject($uid),
            default => null,
        };
        unset($this->objects[$kind->value][$uid]);
        $this->applied[] = Operation::delete($kind, $uid, $object->fields());
    }

    private function deleteProject(string $uid): void
    {
        $this->deleteWhere(EntityKind::Activity, static fn (Entity $a): bool => $a instanceof Activity && $a->project === $uid);
        $this->deleteWhere(EntityKind::Wbs, static fn (Entity $w): bool => $w instanceof WbsElement && $w->project === $uid && $w->parent === null);
    }

    private function deleteBelow(string $uid): void
    {
        $this->deleteWhere(EntityKind::Activity, static fn (Entity $a): bool => $a instanceof Activity && $a->wbs === $uid);
        $this->deleteWhere(EntityKind::Wbs, static fn (Entity $w): bool => $w instanceof WbsElement && $w->parent === $uid);
    }

    /** @param  callable(Entity): bool  $test */
    private function deleteWhere(EntityKind $kind, callable $test): void
    {
        foreach ($this->objects[$kind->value] as $uid => $object) {
            if ($test($object) && array_key_exists($uid, $this->objects[$kind->value])) {
                $this->delete($kind, (string) $uid);
            }
        }
    }

    private function object(EntityKind $kind, string $uid): Entity
    {
        return $this->objects[$kind->value][$uid]
            ?? throw new InvalidOperation($this->position, 'uid', "{$kind->value} {$uid} does not exist (any more)");
    }

    private static function same(mixed $a, mixed $b): bool
    {
        return $a === $b || (is_numeric($a) && is_numeric($b) && ! is_string($a) && ! is_string($b) && (float) $a === (float) $b)
            || (is_array($a) && is_array($b) && $a == $b);
    }
}

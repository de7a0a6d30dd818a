<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\InvalidCalendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Coding\CodeGenerator;
use Reihe\Core\Coding\EntryKey;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\KindChange;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\OnDelete;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Plan\WholeDays;
use Reihe\Core\Progress\Reopened;
use Reihe\Core\Progress\Rescheduled;

/**
 * A list of operations and what they make of a plan. Deleting takes along what cannot stay (links of an activity,
 * everything in a WBS element or project); the applied form spells all of that out, so that its inverse is exact.
 */
final class ChangeSet
{
    /** @var array<string, array<string, Entity>> kind => uid => object */
    private array $objects = [];

    /** @var list<Operation> */
    private array $applied = [];

    /** @var list<Conflict> */
    private array $conflicts = [];

    private int $position = 0;

    /** @var array<string, WorkAxis> by calendar, of those that a date without an hour asked for */
    private array $axes = [];

    /** made when the first code is asked for */
    private ?CodeGenerator $codes = null;

    /**
     * @var array<string, array<string, list<array{EntityKind, string, string}>>>|null kind => uid => kind, uid and field of what
     *     refers or once referred to it; null until something is deleted
     */
    private ?array $referrers = null;

    /** @var array<string, array<string, true>> kind => uid of what a deletion took along */
    private array $along = [];

    /** @var list<array{int, EntityKind, string, string}> position, kind, uid and name of what nothing may refer to in the end */
    private array $released = [];

    /** @var array<string, array<string, true>> kind => uid of what operations themselves put into another project */
    private array $moving = [];

    /** @var array<string, int> uid of an activity that came to another project => position of what moved it */
    private array $moved = [];

    /** @param  array<string, array<string, true>>  $news */
    private function __construct(private readonly Plan $plan, private readonly array $news)
    {
        foreach (EntityKind::cases() as $kind) {
            $this->objects[$kind->value] = $plan->all($kind);
        }
    }

    /**
     * @param  list<Operation>  $operations
     * @param  array<string, array<string, true>>  $news kind => uid of objects that others made or changed after the author looked;
     *     deleting them, or taking them along, is a conflict
     *
     * @throws InvalidOperation|Clash
     */
    public static function apply(Plan $plan, array $operations, array $news = []): Applied
    {
        $self = new self($plan, $news);
        foreach ($operations as $operation) {
            if ($operation->verb === Verb::Update && isset($operation->after['project'])) {
                $self->moving[$operation->kind->value][$operation->uid] = true;
            }
        }
        foreach ($operations as $position => $operation) {
            $self->position = $position;
            try {
                match ($operation->verb) {
                    Verb::Create => $self->create($operation),
                    Verb::Update => $self->update($operation),
                    Verb::Delete => $self->delete($operation->kind, $operation->uid, $operation),
                };
            } catch (InvalidField $e) {
                throw new InvalidOperation($position, $e->field, $e->why);
            } catch (InvalidCalendar $e) {
                throw new InvalidOperation($position, null, $e->why);
            }
        }
        if ($self->conflicts !== []) {
            throw new Clash($self->conflicts);
        }
        $self->checkReleased();
        $self->dropPromises();

        $after = Plan::from($self->objects, $plan->stubs);
        PlanCheck::values($after, $self->values($after));

        return new Applied($after, $self->applied);
    }

    /**
     * Values that the operations write, and all of those whose own field they make another.
     *
     * @return list<OwnValue>
     */
    private function values(Plan $plan): array
    {
        $fields = $values = [];
        foreach ($this->applied as $o) {
            if ($o->kind === EntityKind::OwnField && array_intersect_key($o->after ?? [], array_flip($o->kind->entry()
                ->bindsUsers)) !== []) {
                $fields[$o->uid] = true;
            } elseif ($o->kind === EntityKind::OwnValue && isset($plan->ownValues[$o->uid])) {
                $values[$o->uid] = $plan->ownValues[$o->uid];
            }
        }
        foreach ($fields === [] ? [] : $plan->ownValues as $uid => $value) {
            isset($fields[$value->field]) && $values[$uid] = $value;
        }

        return array_values($values);
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
            throw new InvalidOperation($this->position, 'uid', 'is taken already');
        }
        $object = $operation->kind->read($operation->uid, $this->withCode($operation->kind,
            $this->timed($operation->kind, $operation->after ?? [])));
        $this->put($operation->kind, $object);
        $fields = $operation->kind->brief($object->fields());
        $this->applied[] = $fields === $operation->after ? $operation : Operation::create($operation->kind, $operation->uid, $fields);
    }

    /**
     * Dates without an hour are those of the calendar that measures the object.
     *
     * @param  array<string, mixed>  $after
     * @param  array<string, mixed>  $now  as it is
     * @return array<string, mixed>
     */
    private function timed(EntityKind $kind, array $after, array $now = []): array
    {
        return WholeDays::timed($kind, $after, fn (): ?WorkAxis => $this->axisOf($kind, $after + $now));
    }

    /** @param  array<string, mixed>  $fields  of the object */
    private function axisOf(EntityKind $kind, array $fields): ?WorkAxis
    {
        if ($kind === EntityKind::Link) {
            $taker = is_string($fields['to'] ?? null) ? $this->objects[EntityKind::Activity->value][$fields['to']] ?? null : null;
            $fields = $taker?->fields() ?? [];
        }
        $project = is_string($fields['project'] ?? null) ? $this->objects[EntityKind::Project->value][$fields['project']] ?? null : null;
        $uid = $fields['calendar'] ?? ($project instanceof Project ? $project->calendar : null);
        $calendars = array_filter($this->objects[EntityKind::Calendar->value], static fn (Entity $c): bool => $c instanceof Calendar);
        $calendar = is_string($uid) ? $calendars[$uid] ?? null : null;
        try {
            return $calendar === null ? null : $this->axes[$uid] ??= new WorkAxis($calendar, $calendars);
        } catch (CoreException) {
            return null; // the check of the plan says what is wrong with it
        }
    }

    /**
     * Activities and WBS elements may come without a code, code sets and entries without a key.
     *
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    private function withCode(EntityKind $kind, array $fields): array
    {
        return match ($kind) {
            EntityKind::Activity, EntityKind::Wbs => isset($fields['code']) ? $fields : $this->coded($kind, $fields),
            EntityKind::CodeSet, EntityKind::OwnField => isset($fields['key']) ? $fields : $this->keyed($kind, 'scope', $fields),
            EntityKind::Entry => isset($fields['key']) ? $fields : $this->keyed($kind, 'codeSet', $fields),
            EntityKind::LevelScheme, EntityKind::Resource => isset($fields['key']) ? $fields : $this->keyed($kind, null, $fields),
            default => $fields,
        };
    }

    /**
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    private function coded(EntityKind $kind, array $fields): array
    {
        $project = is_string($fields['project'] ?? null) ? $this->objects['project'][$fields['project']] ?? null : null;
        $above = $fields[$kind === EntityKind::Wbs ? 'parent' : 'wbs'] ?? null;
        $found = is_string($above) ? $this->objects['wbs'][$above] ?? null : null;
        $element = $found instanceof WbsElement ? $found : null;
        if (! $project instanceof Project || ($above !== null && $element === null)) {
            return $fields; // the check of the plan says what is missing
        }
        $this->codes ??= new CodeGenerator($this->objects['activity'], $this->objects['wbs']);

        return ['code' => $kind === EntityKind::Activity ? $this->codes->activity($project, $element)
            : $this->codes->element($project, $element, is_string($fields['code'] ?? null) ? $fields['code'] : '')] + $fields;
    }

    /**
     * @param  string|null  $within  field whose value the key is unique for; null where it is unique among all
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    private function keyed(EntityKind $kind, ?string $within, array $fields, ?string $self = null): array
    {
        $taken = [];
        foreach ($this->objects[$kind->value] as $object) {
            $other = $object->fields();
            if ($object->uid() !== $self && ($within === null || $other[$within] === ($fields[$within] ?? null))
                && is_string($other['key'])) {
                $taken[$other['key']] = true;
            }
        }

        $set = $kind === EntityKind::Entry && is_string($fields['codeSet'] ?? null) ? $this->objects['codeSet'][$fields['codeSet']] ?? null
            : null;

        return ['key' => EntryKey::propose(is_string($fields['name'] ?? null) ? $fields['name'] : '',
            static fn (string $key): bool => isset($taken[$key]), min(EntryKey::LENGTH, $set instanceof CodeSet ? $set->keyLength
                ?? EntryKey::LENGTH : EntryKey::LENGTH))] + $fields;
    }

    private function update(Operation $operation): void
    {
        $old = $this->object($operation->kind, $operation->uid);
        $fields = $old->fields();
        $wanted = $operation->after ?? [];
        $within = [EntityKind::CodeSet->value => null, EntityKind::Entry->value => 'codeSet', EntityKind::LevelScheme->value => null,
            EntityKind::Resource->value => null];
        if (array_key_exists('key', $wanted) && $wanted['key'] === null && array_key_exists($operation->kind->value, $within)) {
            // no key is one that follows from the name, as when it was made
            $wanted['key'] = $this->keyed($operation->kind, $within[$operation->kind->value],
                array_diff_key($wanted + $fields, ['key' => 0]),
                $operation->uid)['key'];
        }
        $merge = Merge::update($fields, $this->timed($operation->kind, $wanted, $fields), $operation->before,
            $operation->kind->fields());
        foreach ($merge->conflicts as $c) {
            $this->conflict($operation->kind, $operation->uid, $c['field'], $c['seen'], $c['yours'], $c['theirs']);
        }
        $after = $merge->after;
        if ($after === []) {
            return;
        }
        if ($old instanceof Activity) {
            $after += Rescheduled::remaining($old, $after) + Reopened::along($old, $after)
                + (isset($after['kind']) ? KindChange::along($old, $after, $this->dayOf($old)) : []);
        }
        $moves = isset($after['project']) && in_array($operation->kind, [EntityKind::Activity, EntityKind::Wbs], true);
        if ($moves) { // the code is said in any case, so that the way back is exact
            $after['code'] = $operation->after['code'] ?? $this->coded($operation->kind, $after + $fields)['code'];
        }
        $new = $operation->kind->read($operation->uid, $after + $fields);
        $this->put($operation->kind, $new);
        $written = $new->fields();
        $before = [];
        foreach (array_keys($after) as $field) {
            $before[$field] = $fields[$field] ?? null;
            $after[$field] = $written[$field] ?? null;
        }
        $this->applied[] = Operation::update($operation->kind, $operation->uid, $after, $before);
        if ($new instanceof Activity && $new->kind === Kind::Hammock && $fields['kind'] !== Kind::Hammock->value) {
            $this->takeWorkAway($operation->uid);
        }
        if ($moves) {
            $this->takeAlong($operation->kind, $operation->uid, $after['project']);
        }
    }

    /**
     * What lies below or stands on what comes to another project comes along, with codes by the rule there; what operations
     * move by themselves is left to them.
     */
    private function takeAlong(EntityKind $kind, string $uid, mixed $project): void
    {
        if ($kind === EntityKind::Activity) {
            $this->moved[$uid] = $this->position;
        }
        $this->referrers ??= $this->allReferrers();
        foreach ($this->referrers[$kind->value][$uid] ?? [] as [$of, $referrer, $field]) {
            $fields = ($this->objects[$of->value][$referrer] ?? null)?->fields() ?? [];
            if (($fields[$field] ?? null) === $uid && ($fields['project'] ?? $project) !== $project
                && ! isset($this->moving[$of->value][$referrer])) {
                $this->update(Operation::update($of, $referrer, ['project' => $project]));
            }
            if ($of === EntityKind::Link && $field === 'to') { // it belongs to the project of its successor
                $this->takeAlong($of, $referrer, $project);
            }
        }
    }

    /** A link whose two activities came to lie in one project is no handover any more, and what was promised for it is over. */
    private function dropPromises(): void
    {
        foreach ($this->moved as $activity => $position) {
            $this->position = $position;
            foreach ($this->referrers[EntityKind::Activity->value][$activity] ?? [] as [$of, $uid]) {
                $link = $of === EntityKind::Link ? $this->objects[$of->value][$uid] ?? null : null;
                $ends = $link instanceof Link ? [$this->projectOf($link->from), $this->projectOf($link->to)] : [null, null];
                if ($link instanceof Link && $link->agreed !== null && $ends[0] !== null && $ends[0] === $ends[1]) {
                    $this->update(Operation::update($of, $uid, ['agreed' => null]));
                }
            }
        }
    }

    private function projectOf(string $activity): ?string
    {
        $found = $this->objects[EntityKind::Activity->value][$activity] ?? null;

        return $found instanceof Activity ? $found->project : null;
    }

    /** What an activity may not have any more goes along. */
    private function takeWorkAway(string $activity): void
    {
        foreach ($this->objects[EntityKind::Assignment->value] as $uid => $assignment) {
            if ($assignment instanceof Assignment && $assignment->activity === $activity) {
                $this->delete(EntityKind::Assignment, $uid, null);
            }
        }
    }

    /** Minutes of a day on an activity's calendar; the usual one where there is none, which the check of the plan will tell. */
    private function dayOf(Activity $activity): int
    {
        $project = $this->objects['project'][$activity->project] ?? null;
        $calendar = $this->objects['calendar'][$activity->calendar ?? ($project instanceof Project ? $project->calendar : '')] ?? null;
        $calendars = array_filter($this->objects['calendar'], static fn (Entity $c): bool => $c instanceof Calendar);

        return $calendar instanceof Calendar ? $calendar->dayLength($calendars) : Calendar::MINUTES_PER_DAY;
    }

    /** @param  Operation|null  $asked  null for what goes along with something else */
    private function delete(EntityKind $kind, string $uid, ?Operation $asked): void
    {
        if ($asked !== null && isset($this->along[$kind->value][$uid]) && ! isset($this->objects[$kind->value][$uid])) {
            return; // it went with what an operation before this one deleted
        }
        if ($asked === null) {
            $this->along[$kind->value][$uid] = true;
        }
        $object = $this->object($kind, $uid);
        $this->checkUnseen($kind, $uid, $object, $asked);
        unset($this->objects[$kind->value][$uid]); // before what goes along: of two that lead to each other each goes once
        $this->referrers ??= $this->allReferrers();
        $refused = false;
        foreach (array_reverse($this->referrers[$kind->value][$uid] ?? []) as [$of, $referrer, $field]) {
            $referring = $this->objects[$of->value][$referrer] ?? null;
            if ($referring === null || Catalogue::value($referring, $field) !== $uid) {
                continue; // gone, or refers to something else by now
            }
            if ($this->rule($of, $field) === OnDelete::GoesAlong) {
                $this->delete($of, $referrer, null);
            } else {
                $refused = true;
            }
        }
        if ($refused) {
            $this->released[] = [$this->position, $kind, $uid, $this->nameOf($kind, $uid)];
        }
        $this->applied[] = Operation::delete($kind, $uid, $kind->brief($object->fields()));
    }

    private function checkUnseen(EntityKind $kind, string $uid, Entity $object, ?Operation $asked): void
    {
        if ($asked?->before !== null) {
            foreach (Merge::delete($object->fields(), $asked->before) as $c) {
                $this->conflict($kind, $uid, $c['field'], $c['seen'], null, $c['theirs']);
            }
        } elseif (isset($this->news[$kind->value][$uid])) {
            $this->conflict($kind, $uid, null, null, null, $object->fields());
        }
    }

    /** What was deleted must not be used by anything that is left. */
    private function checkReleased(): void
    {
        foreach ($this->released as [$position, $kind, $uid, $name]) {
            $users = [];
            foreach ($this->referrers[$kind->value][$uid] ?? [] as [$of, $referrer, $field]) {
                $object = $this->objects[$of->value][$referrer] ?? null;
                if (! isset($this->objects[$kind->value][$uid]) && $object !== null && Catalogue::value($object, $field) === $uid) {
                    $users[$of->value][$referrer] = true;
                }
            }
            if ($users !== []) {
                $counts = array_map(static fn (string $of, array $all): string => EntityKind::from($of)->entry()->counted(count($all)),
                    array_keys($users), $users);
                throw new InvalidOperation($position, null, "{$name} is still used by ".implode(', ', $counts));
            }
        }
    }

    private function put(EntityKind $kind, Entity $object): void
    {
        $this->objects[$kind->value][$object->uid()] = $object;
        $kind !== EntityKind::Calendar ?: $this->axes = [];
        $this->codes?->note($object);
        if ($this->referrers !== null) {
            $this->refer($this->referrers, $kind, $object);
        }
    }

    /** @return array<string, array<string, list<array{EntityKind, string, string}>>> */
    private function allReferrers(): array
    {
        $referrers = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($this->objects[$kind->value] as $object) {
                $this->refer($referrers, $kind, $object);
            }
        }

        return $referrers;
    }

    /** @param  array<string, array<string, list<array{EntityKind, string, string}>>>  $referrers */
    private function refer(array &$referrers, EntityKind $kind, Entity $object): void
    {
        foreach ($kind->entry()->references as $reference) {
            $to = Catalogue::value($object, $reference->field);
            if (is_string($to)) {
                $referrers[$reference->to->value][$to][] = [$kind, $object->uid(), $reference->field];
            }
        }
    }

    private function rule(EntityKind $kind, string $field): OnDelete
    {
        foreach ($kind->entry()->references as $reference) {
            if ($reference->field === $field) {
                return $reference->onDelete;
            }
        }
        throw new \LogicException("{$kind->value} has no reference {$field}");
    }

    private function conflict(EntityKind $kind, string $uid, ?string $field, mixed $seen, mixed $yours, mixed $theirs): void
    {
        $this->conflicts[] = new Conflict($this->position, $kind, $uid, $this->nameOf($kind, $uid), $field, $seen, $yours, $theirs,
            $this->plan->homesOf($kind, $uid));
    }

    private function nameOf(EntityKind $kind, string $uid): string
    {
        return $this->plan->find($kind, $uid) !== null ? $this->plan->nameOf($kind, $uid) : "a new {$kind->entry()->noun}";
    }

    private function object(EntityKind $kind, string $uid): Entity
    {
        return $this->objects[$kind->value][$uid]
            ?? throw new InvalidOperation($this->position, 'uid', "this {$kind->entry()->noun} does not exist (any more)");
    }
}

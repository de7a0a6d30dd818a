<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\Plan;

/**
 * Turns what a source would create into what that changes of what is here. Three-way, of what the source said last, what is here and what
 * it says now: what only we changed, or deleted, stays; what both changed to different things is a conflict, which is ours unless the
 * source is to win. The outcome is operations, for a proposal.
 */
final class Reconciliation
{
    /** where rows lie among others follows from the order of the source and is no change */
    private const ORDER = ['position' => 0];

    /** of each list that is shown */
    private const MOST = 500;

    /** @var list<Operation> */
    public array $operations = [];

    /** @var array{new: int, changed: int, unchanged: int, missing: int, conflicting: int} */
    public array $states = ['new' => 0, 'changed' => 0, 'unchanged' => 0, 'missing' => 0, 'conflicting' => 0];

    /** @var list<array{at: int, kind: string, label: string, field: string, before: mixed, after: mixed}> at: position of the operation */
    public array $changes = [];

    /** @var list<array{kind: string, label: string, field: string|null, last: mixed, before: mixed, after: mixed}> field null: deleted
     *     here, changed there */
    public array $conflicts = [];

    /** @var list<array{kind: string, label: string}> */
    public array $missing = [];

    /** @var array<string, list<array{string, string, array<string, mixed>}>> kind => uid here, what the source calls it and says of it now,
     *     where that is something new */
    public array $said = [];

    /** rows that were deleted or moved elsewhere here and stay so, though the source has them */
    public int $staying = 0;

    /** @var list<string> what there is to say besides */
    public array $notes = [];

    /** @var array<string, array<string, Entity>> */
    private array $alike = [];

    /** @var array<string, string> uid of what the source has => what it calls it */
    private array $made = [];

    /** @var array<string, string> entries of the source => their code sets */
    private array $setOf = [];

    /** @var array<string, bool> code sets of the source => do they give several entries to one */
    private array $multiple = [];

    /** @var array<string, true> uids of what stays deleted */
    private array $left = [];

    /** @var array<string, array<string, true>> kind => uid here of what the source has */
    private array $met = [];

    /** @var array<string, array<string, string>> kind => uid that the source says => uid here of what it is */
    private array $became = [];

    /** @var array<string, true> uids of what is made */
    private array $new = [];

    /** @param  Plan  $plan  what is here */
    public function __construct(private readonly Plan $plan, private readonly Source $source, private readonly bool $sourceWins = false,
        private readonly bool $deleteMissing = false)
    {
    }

    /** @param  list<Operation>  $creates  in the order of kinds; updates among them are carried over */
    public function of(array $creates): void
    {
        $gone = 0;
        $order = array_flip(EntityKind::names()); // what is told of a link comes after the link
        usort($creates, static fn (Operation $a, Operation $b): int => $order[$a->kind->value] <=> $order[$b->kind->value]);
        foreach ($creates as $o) {
            $name = $o->after['key'] ?? $o->after['name'] ?? null;
            is_string($name) && $this->made[$o->uid] = $name;
            if ($o->kind === EntityKind::Entry && is_string($o->after['codeSet'] ?? null)) {
                $this->setOf[$o->uid] = $o->after['codeSet'];
            } elseif ($o->kind === EntityKind::CodeSet) {
                $this->multiple[$o->uid] = ($o->after['multiple'] ?? false) === true;
            }
            if ($o->verb === Verb::Update) {
                $this->operations[] = $o;
                $this->changed($o->kind, $o->uid, $o->after ?? [], $o->before ?? []);

                continue;
            }
            $o = $this->withoutLeft($this->named($o));
            $now = $o === null ? null : $this->plan->find($o->kind, $o->uid) ?? $this->alike($o);
            if ($o === null) {
                continue;
            }
            if ($now === null && $this->staysDeleted($o)) {
                $this->left[$o->uid] = true;
                $gone += $o->kind === EntityKind::Link ? 0 : 1;
            } elseif ($now === null) {
                $this->operations[] = $o;
                $this->states['new']++;
                $this->new[$o->uid] = true;
            } else {
                $this->met[$o->kind->value][$now->uid()] = true;
                $this->became[$o->kind->value][$o->uid] = $now->uid();
                $this->update($o, $now);
            }
        }
        $this->staying = $gone;
        $this->missing();
    }

    /** By the uids here of what was told before and is there already: what a remark answers, or is about. */
    private function named(Operation $o): Operation
    {
        $after = $o->after ?? [];
        foreach ($this->became === [] ? [] : $o->kind->entry()->references as $reference) {
            $to = $after[$reference->field] ?? null;
            if (is_string($to)) {
                $after[$reference->field] = $this->became[$reference->to->value][$to] ?? $to;
            }
        }

        return $after === ($o->after ?? []) ? $o : Operation::create($o->kind, $o->uid, $after);
    }

    /** Without what leads to something that stays deleted; null where nothing is left to stand on. */
    private function withoutLeft(Operation $o): ?Operation
    {
        $after = $o->after ?? [];
        foreach ($this->left === [] ? [] : $o->kind->entry()->references as $reference) {
            $to = $after[$reference->field] ?? null;
            if (is_string($to) && isset($this->left[$to])) {
                if ($reference->to !== EntityKind::Wbs) {
                    return null;
                }
                $now = $this->plan->find($o->kind, $o->uid)?->fields();
                $after[$reference->field] = $now[$reference->field] ?? null;
            }
        }

        return $after === $o->after ? $o : Operation::create($o->kind, $o->uid, $after);
    }

    /** It was here and was deleted; that counts unless the source says something else of it now and is to win. */
    private function staysDeleted(Operation $o): bool
    {
        $last = $this->source->carries($o->kind) ? $this->source->gone($o->kind, $o->uid) : null;
        if ($last === null || ! $this->isInUpdated($o)) {
            return false;
        }
        $theirs = array_diff_key($o->kind->complete($o->after ?? []), $this->source->silentOn($o->kind, $o->uid));
        $differs = false;
        foreach (array_diff_key($theirs, self::ORDER, ['project' => 0, 'wbs' => 0, 'parent' => 0]) as $field => $value) {
            $differs = $differs
                || ($o->kind !== EntityKind::Link && array_key_exists($field, $last) && ! Merge::same($value, $last[$field]));
        }
        if ($differs) {
            $this->states['conflicting']++;
            $code = is_string($theirs['code'] ?? null) ? $theirs['code'] : '';
            $name = is_string($theirs['name'] ?? null) ? $theirs['name'] : '';
            $this->conflict($o->kind, $code.$name === '' ? $o->kind->entry()->noun : trim("{$code} {$name}"), null, null, null, null);

            return ! $this->sourceWins;
        }
        $this->states['unchanged']++;

        return true;
    }

    private function isInUpdated(Operation $o): bool
    {
        if ($o->kind === EntityKind::Link) {
            foreach (['from', 'to'] as $end) {
                $uid = $o->after[$end] ?? null;
                if (! is_string($uid) || ! isset($this->plan->activities[$uid])) {
                    return false;
                }
            }

            return true;
        }
        $project = $o->after['project'] ?? null;
        $activity = $o->after['activity'] ?? null;

        return is_string($project) ? $this->source->updates($project)
            : is_string($activity) && $this->source->updates($this->plan->projectOf($activity) ?? '');
    }

    /** An object that means the same where its kind says what may be there once: a link between the same ends, a coding, a value. */
    private function alike(Operation $o): ?Entity
    {
        $fields = $o->kind->entry()->alike;
        $fields = array_values(array_diff($fields, array_keys($this->source->silentOn($o->kind, $o->uid))));
        if ($fields === []) {
            return null;
        }
        $keyOf = fn (array $of): string => json_encode(array_map(fn (string $f): mixed => $f === EntityKind::ONCE
            ? $this->once($of['entry'] ?? null)
            : $of[$f] ?? null, $fields), JSON_THROW_ON_ERROR);
        if (! isset($this->alike[$o->kind->value])) {
            $this->alike[$o->kind->value] = [];
            foreach ($this->plan->all($o->kind) as $object) {
                $this->alike[$o->kind->value][$keyOf($object->fields())] = $object;
            }
        }

        return $this->alike[$o->kind->value][$keyOf($o->kind->complete($o->after ?? []))] ?? null;
    }

    /** What an object is coded with once: the entry, or its code set where that gives one entry to each. */
    private function once(mixed $entry): ?string
    {
        $entry = is_string($entry) ? $entry : '';
        $set = $this->plan->entries[$entry]->codeSet ?? $this->setOf[$entry] ?? null;

        return $set !== null && ($this->plan->codeSets[$set]->multiple ?? $this->multiple[$set] ?? false) ? $entry : $set;
    }

    private function update(Operation $o, Entity $entity): void
    {
        $uid = $entity->uid();
        $now = $entity->fields();
        $foreign = $this->source->calls($o->kind, $o->uid);
        // what means the same may stand here in place of what the source told of and was deleted
        $last = $this->source->told($o->kind, $uid) ?? $this->source->gone($o->kind, $o->uid);
        // of a source that was never compared with what is here only what it says counts, not what it leaves out
        $theirs = $o->after ?? [];
        $isWhole = $last !== null || $this->source->isWhole($this->plan->ownerOf($o->kind, $uid));
        $wanted = [];
        // who made it and when was filled in when it came, and stays
        $stamps = array_filter($o->kind->fields(), static fn (Field $f): bool => $f->stamp !== null);
        foreach (array_diff_key($isWhole ? $o->kind->complete($theirs) : $theirs, self::ORDER, $stamps,
            $this->source->silentOn($o->kind, $o->uid)) as $field => $value) {
            if ($last !== null && array_key_exists($field, $last) && Merge::same($value, $last[$field])) {
                continue; // the source says what it said; what only we changed stays
            }
            if ($o->kind === EntityKind::Link && is_string($value) && is_string($now[$field] ?? null)
                && isset($this->new[$value], $this->plan->stubs[$now[$field]])) {
                $this->notes[] = "The handover {$this->label($o->kind, $uid)} stays where it is.";

                continue; // it does not come to a copy of what it is tied to
            }
            $wanted[$field] = $value;
        }
        $isNews = $last === null || $wanted !== [];
        $merge = Merge::update($now, $wanted, $last, $o->kind->fields());
        [$after, $hasConflict] = [$merge->after, $merge->conflicts !== []];
        foreach ($merge->conflicts as ['field' => $field, 'seen' => $seen, 'yours' => $value, 'theirs' => $ours]) {
            $this->conflict($o->kind, $this->label($o->kind, $uid), $field, $seen, $ours, $value);
            if ($this->sourceWins) {
                $after[$field] = $value;
            } else {
                $theirs[$field] = $seen; // left open: it is one again the next time
            }
        }
        if ($isNews && $foreign !== null) {
            $this->said[$o->kind->value][] = [$uid, $foreign, $theirs];
        }
        if ($hasConflict) {
            $this->states['conflicting']++;
        } elseif ($after === []) {
            $this->states['unchanged']++;
        }
        if ($after !== []) {
            $before = [];
            foreach (array_keys($after) as $field) {
                $before[$field] = $now[$field] ?? null;
            }
            $this->operations[] = Operation::update($o->kind, $uid, $after, $before);
            $this->changed($o->kind, $uid, $after, $before, ! $hasConflict);
        }
    }

    /**
     * @param  array<string, mixed>  $after
     * @param  array<string, mixed>  $before
     */
    private function changed(EntityKind $kind, string $uid, array $after, array $before, bool $counts = true): void
    {
        $this->states['changed'] += $counts ? 1 : 0;
        foreach ($after as $field => $value) {
            count($this->changes) < self::MOST && $this->changes[] = ['at' => count($this->operations) - 1, 'kind' => $kind->value,
                'label' => $this->label($kind, $uid), 'field' => $field,
                'before' => $this->called($kind, $field, $before[$field] ?? null), 'after' => $this->called($kind, $field, $value)];
        }
    }

    private function label(EntityKind $kind, string $uid): string
    {
        return $kind === EntityKind::Activity ? trim("{$this->plan->label($uid)} {$this->plan->name($uid)}")
            : $this->plan->callName($kind, $uid);
    }

    /** What a reference leads to by its name, other values as they are. */
    private function called(EntityKind $kind, string $field, mixed $value): mixed
    {
        foreach ($kind->entry()->references as $reference) {
            if ($reference->field === $field && is_string($value)) {
                return $this->plan->find($reference->to, $value) !== null ? $this->plan->callName($reference->to, $value)
                    : $this->made[$value] ?? ($reference->to === EntityKind::Activity ? $this->plan->label($value)
                        : 'something that is not here');
            }
        }

        return $value;
    }

    private function conflict(EntityKind $kind, string $label, ?string $field, mixed $last, mixed $before, mixed $after): void
    {
        count($this->conflicts) < self::MOST && $this->conflicts[] = ['kind' => $kind->value, 'label' => $label, 'field' => $field,
            'last' => $field === null ? null : $this->called($kind, $field, $last),
            'before' => $field === null ? null : $this->called($kind, $field, $before),
            'after' => $field === null ? null : $this->called($kind, $field, $after)];
    }

    /** What the source knew of and does not tell any more. */
    private function missing(): void
    {
        $missing = [];
        foreach (array_filter(array_reverse(EntityKind::cases()), $this->source->carries(...)) as $kind) {
            foreach ($this->source->known($kind) as $uid) {
                if (! isset($this->met[$kind->value][$uid]) && $this->plan->find($kind, $uid) !== null) {
                    $missing[$kind->value][$uid] = true;
                    $this->states['missing']++;
                    count($this->missing) < self::MOST
                        && $this->missing[] = ['kind' => $kind->value, 'label' => $this->label($kind, $uid)];
                }
            }
        }
        $this->deleteMissing && $this->delete($missing);
    }

    /**
     * Each is deleted once: what lies in a part that is deleted, and links of what is deleted, go along. A part in which something is that
     * the source does not know, or that is to come, stays.
     *
     * @param  array<string, array<string, true>>  $missing  kind => uid
     */
    private function delete(array $missing): void
    {
        $wbs = $missing[EntityKind::Wbs->value] ?? [];
        $activities = $missing[EntityKind::Activity->value] ?? [];
        $above = $needed = []; // uid => where it will be; what comes in there
        foreach ($this->plan->wbs as $w) {
            $above[$w->uid] = $w->parent;
        }
        foreach ($this->plan->activities as $a) {
            $above[$a->uid] = $a->wbs;
        }
        foreach ($this->operations as $o) {
            $at = $o->after['wbs'] ?? $o->after['parent'] ?? null;
            $moves = array_key_exists('wbs', $o->after ?? []) || array_key_exists('parent', $o->after ?? []);
            if ($o->verb === Verb::Update && $moves && in_array($o->kind, [EntityKind::Wbs, EntityKind::Activity], true)) {
                $above[$o->uid] = is_string($at) ? $at : null;
            } elseif (is_string($at)) {
                $needed[] = $at;
            }
        }
        foreach ($above as $uid => $at) {
            isset($activities[$uid]) || isset($wbs[$uid]) ?: $needed[] = $at;
        }
        foreach ($needed as $uid) {
            for ($at = $uid; $at !== null && isset($wbs[$at]); $at = $above[$at] ?? null) {
                unset($wbs[$at]);
            }
        }
        $goesAlong = static fn (mixed $in): bool => is_string($in) && isset($wbs[$in]);
        $isGone = static fn (mixed $uid): bool => is_string($uid) && (isset($activities[$uid]) || $goesAlong($above[$uid] ?? null));
        foreach ($missing as $name => $uids) { // what stands on others comes before them
            $kind = EntityKind::from($name);
            foreach (array_keys($uids) as $uid) {
                $fields = $this->plan->find($kind, (string) $uid)?->fields() ?? [];
                $along = match ($kind) {
                    EntityKind::Link => $isGone($fields['from']) || $isGone($fields['to']),
                    EntityKind::Activity => $goesAlong($above[$uid]),
                    EntityKind::Wbs => ! isset($wbs[$uid]) || $goesAlong($above[$uid]),
                    default => $isGone($fields['activity'] ?? null) || $goesAlong($fields['wbs'] ?? null),
                };
                $along ?: $this->operations[] = Operation::delete($kind, (string) $uid, $fields);
            }
        }
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\EntityKind;

/**
 * A change set that waits for a yes: items that are accepted or rejected one by one. Accepting an item accepts what it needs
 * (objects that the proposal makes and it refers to), rejecting one rejects what needs it.
 */
final readonly class Proposal
{
    /**
     * @param  list<Operation>  $operations
     * @param  list<ItemState>  $states  one for each
     */
    private function __construct(public array $operations, public array $states)
    {
    }

    /**
     * @param  list<Operation>  $operations
     * @param  string  $states  a letter for each, empty while all are open
     */
    public static function of(array $operations, string $states = ''): self
    {
        return new self($operations, $states === '' ? array_fill(0, count($operations), ItemState::Open)
            : array_map(ItemState::from(...), str_split($states)));
    }

    /** The states as letters, see {@see of()}. */
    public function letters(): string
    {
        return implode('', array_map(static fn (ItemState $s): string => $s->value, $this->states));
    }

    /** @return list<int> positions of what is not decided yet */
    public function open(): array
    {
        return array_keys($this->states, ItemState::Open, true);
    }

    /**
     * @param  list<int>  $positions
     * @return array{list<int>, self} what was not accepted before, in order, and the proposal after it
     *
     * @throws InvalidOperation when one of them, or something it needs, was rejected or is not there
     */
    public function accept(array $positions): array
    {
        $made = $this->made();
        $states = $this->states;
        $accepted = [];
        for ($queue = $positions; $queue !== [];) {
            $at = array_pop($queue);
            $state = $states[$at] ?? throw new InvalidOperation($at, null, 'the proposal has no such item', 'accept');
            if ($state === ItemState::Rejected) {
                throw new InvalidOperation($at, null, 'this item, which others need, was rejected', 'accept');
            }
            if ($state === ItemState::Open) {
                $states[$at] = ItemState::Accepted;
                $accepted[] = $at;
                array_push($queue, ...$this->needs($at, $made));
            }
        }
        sort($accepted);

        return [$accepted, new self($this->operations, $states)];
    }

    /**
     * @param  list<int>  $positions
     *
     * @throws InvalidOperation when one of them is not there or was accepted
     */
    public function reject(array $positions): self
    {
        $made = $this->made();
        $users = [];
        foreach (array_keys($this->operations) as $at) {
            foreach ($this->needs($at, $made) as $needed) {
                $users[$needed][] = $at;
            }
        }
        $states = $this->states;
        for ($queue = $positions; $queue !== [];) {
            $at = array_pop($queue);
            $state = $states[$at] ?? throw new InvalidOperation($at, null, 'the proposal has no such item', 'reject');
            if ($state === ItemState::Accepted) {
                throw new InvalidOperation($at, null, 'this item was accepted already', 'reject');
            }
            if ($state === ItemState::Open) {
                $states[$at] = ItemState::Rejected;
                array_push($queue, ...$users[$at] ?? []);
            }
        }

        return new self($this->operations, $states);
    }

    /**
     * Open items that make one of these projects or something in it. Links to other projects that the proposal makes wait until
     * these are accepted too.
     *
     * @param  list<string>  $projects  uids
     * @return list<int> positions
     */
    public function inProjects(array $projects): array
    {
        $made = $this->made();
        $wanted = array_fill_keys($projects, true);
        $owners = $found = [];
        foreach ($this->operations as $at => $o) {
            $owners[$at] = $this->projectOf($at, $made, $owners);
            if ($o->kind === EntityKind::Project && $this->states[$at] === ItemState::Accepted) {
                $wanted[$o->uid] = true;
            }
        }
        foreach ($this->open() as $at) {
            $needed = array_map(static fn (int $need): ?string => $owners[$need], $this->needs($at, $made));
            $all = array_filter([$owners[$at], ...$needed], is_string(...));
            if ($all !== [] && array_diff_key(array_flip($all), $wanted) === []) {
                $found[] = $at;
            }
        }

        return $found;
    }

    /** @return list<string> uids of the projects that the proposal makes and that are accepted or rejected */
    public function decidedProjects(): array
    {
        $decided = [];
        foreach ($this->operations as $at => $o) {
            if ($o->kind === EntityKind::Project && $o->verb === Verb::Create && $this->states[$at] !== ItemState::Open) {
                $decided[] = $o->uid;
            }
        }

        return $decided;
    }

    /**
     * The project, made by the proposal, that an item belongs to.
     *
     * @param  array<string, array<string, int>>  $made
     * @param  array<int, string|null>  $owners  of the items before it
     */
    private function projectOf(int $at, array $made, array $owners): ?string
    {
        $o = $this->operations[$at];
        $through = $o->kind->entry()->ownedThrough;
        $own = $made[$o->kind->value][$o->uid] ?? $at;
        if ($own !== $at) {
            return $owners[$own] ?? null;
        }
        $to = $through === null ? null : $o->after[$through->field] ?? null;

        return match (true) {
            $through === null => $o->kind === EntityKind::Project ? $o->uid : null,
            is_string($to) && isset($made[$through->to->value][$to]) => $owners[$made[$through->to->value][$to]] ?? null,
            default => null,
        };
    }

    /** @return array<string, array<string, int>> kind => uid => position of what makes it */
    private function made(): array
    {
        $made = [];
        foreach ($this->operations as $at => $o) {
            if ($o->verb === Verb::Create) {
                $made[$o->kind->value][$o->uid] = $at;
            }
        }

        return $made;
    }

    /**
     * @param  array<string, array<string, int>>  $made
     * @return list<int> positions of what an item refers to, and of what makes the object that it changes
     */
    private function needs(int $at, array $made): array
    {
        $o = $this->operations[$at];
        $needs = [];
        foreach ($o->kind->entry()->references as $reference) {
            $to = $o->after[$reference->field] ?? null;
            if (is_string($to) && isset($made[$reference->to->value][$to])) {
                $needs[] = $made[$reference->to->value][$to];
            }
        }
        $own = $made[$o->kind->value][$o->uid] ?? $at;

        return $own === $at ? $needs : [...$needs, $own];
    }
}

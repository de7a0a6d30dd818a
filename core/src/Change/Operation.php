<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Uid;

/**
 * One alteration of one object of the plan, in written form (see {@see \Reihe\Core\Plan\Fields}).
 *
 * Creating has no `before`, deleting no `after`, and both may leave out what is as it would be anyway; updating has both or, as a wish
 * that nobody has checked yet, only
 * `after`, each with just the fields that change. The inverse swaps them.
 */
final readonly class Operation
{
    /**
     * @param  array<string, mixed>|null  $before
     * @param  array<string, mixed>|null  $after
     */
    private function __construct(
        public Verb $verb,
        public EntityKind $kind,
        public string $uid,
        public ?array $before,
        public ?array $after,
    ) {
    }

    /** @param  array<string, mixed>  $fields */
    public static function create(EntityKind $kind, string $uid, array $fields): self
    {
        return new self(Verb::Create, $kind, $uid, null, $fields);
    }

    /**
     * @param  array<string, mixed>  $after
     * @param  array<string, mixed>|null  $before  what the author saw; a difference to what is there now is a clash
     */
    public static function update(EntityKind $kind, string $uid, array $after, ?array $before = null): self
    {
        return new self(Verb::Update, $kind, $uid, $before, $after);
    }

    /** @param  array<string, mixed>|null  $before */
    public static function delete(EntityKind $kind, string $uid, ?array $before = null): self
    {
        return new self(Verb::Delete, $kind, $uid, $before, null);
    }

    /** @param  list<self>  $operations */
    public static function touchEnterprise(array $operations): bool
    {
        foreach ($operations as $operation) {
            if ($operation->kind->entry()->owner === Owner::Enterprise) {
                return true;
            }
        }

        return false;
    }

    /**
     * May dates of projects that the operations do not name follow from them?
     *
     * @param  list<self>  $operations
     */
    public static function shapeDates(array $operations): bool
    {
        foreach ($operations as $operation) {
            if ($operation->kind->entry()->shapesDates) {
                return true;
            }
        }

        return false;
    }

    public function inverse(): self
    {
        return match ($this->verb) {
            Verb::Create => self::delete($this->kind, $this->uid, $this->kind->complete($this->after ?? [])),
            Verb::Delete => self::create($this->kind, $this->uid, $this->before ?? []),
            Verb::Update => self::update($this->kind, $this->uid, $this->before ?? [], $this->after),
        };
    }

    /** @return array{verb: string, kind: string, uid: string, before: array<string, mixed>|null, after: array<string, mixed>|null} */
    public function toArray(): array
    {
        return ['verb' => $this->verb->value, 'kind' => $this->kind->value, 'uid' => $this->uid, 'before' => $this->before,
            'after' => $this->after];
    }

    /**
     * @param  array<array-key, mixed>  $data  as from {@see toArray()}
     *
     * @throws InvalidOperation
     */
    public static function fromArray(array $data, int $position = 0): self
    {
        $verb = Verb::tryFrom(is_string($data['verb'] ?? null) ? $data['verb'] : '');
        $kind = EntityKind::tryFrom(is_string($data['kind'] ?? null) ? $data['kind'] : '');
        $uid = $data['uid'] ?? null;
        $before = $data['before'] ?? null;
        $after = $data['after'] ?? null;
        if ($verb === null) {
            throw new InvalidOperation($position, 'verb', 'must be create, update or delete');
        }
        if ($kind === null) {
            throw new InvalidOperation($position, 'kind', 'must be one of '.implode(', ', EntityKind::names()));
        }
        if (! is_string($uid) || ! Uid::isSound($uid)) {
            throw new InvalidOperation($position, 'uid', Uid::RULE);
        }
        if (($before !== null && ! is_array($before)) || ($after !== null && ! is_array($after))
            || ($verb !== Verb::Delete && $after === null)) {
            throw new InvalidOperation($position, $after === null ? 'after' : 'before', 'must be an object of fields');
        }

        foreach (array_keys(($before ?? []) + ($after ?? [])) as $field) {
            if (! is_string($field)) {
                throw new InvalidOperation($position, 'after', 'must be an object of fields, not a list');
            }
        }

        /** @phpstan-ignore argument.type, argument.type */
        return new self($verb, $kind, $uid, $verb === Verb::Create ? null : $before, $verb === Verb::Delete ? null : $after);
    }
}

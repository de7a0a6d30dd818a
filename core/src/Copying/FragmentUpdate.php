<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Change\Merge;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Insertion;
use Reihe\Core\Plan\Plan;

/**
 * What a newer version of a fragment would change where it was put: what differs between the two versions, unless the project
 * changed the same. Three ways: the version that was put in, the project as it is, the newer version.
 */
final class FragmentUpdate
{
    /** fields that belong to the place and not to the fragment */
    private const PLACE = ['project' => 0, 'position' => 0, 'code' => 0, 'parent' => 0, 'wbs' => 0];

    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<array{label: string, field: string|null, yours: mixed, theirs: mixed}> what the project changed itself */
    public array $conflicts = [];

    /** @var array<string, string> uid in the fragment => uid in the project */
    private array $made;

    /** @var array<string, true> uids of what the newer version brings */
    private array $added = [];

    private function __construct(private readonly Plan $plan, private readonly Insertion $insertion)
    {
        $this->made = array_column(array_map(static fn ($p): array => [$p->of, $p->made], $insertion->pairs), 1, 0);
    }

    /** @param  Plan  $plan  with the project */
    public static function of(Plan $plan, Insertion $insertion, Plan $before, Plan $after, int $version): self
    {
        $self = new self($plan, $insertion);
        $added = [];
        foreach (EntityKind::copied() as $kind) {
            foreach ($after->all($kind) as $uid => $object) {
                $was = $before->find($kind, (string) $uid);
                if ($after->ownerOf($kind, (string) $uid) !== $insertion->fragment) {
                    continue;
                }
                if ($was === null) {
                    $added[] = [$kind, $object];
                } elseif (isset($self->made[$uid])) {
                    $self->changed($kind, (string) $uid, $was, $object);
                }
            }
        }
        foreach ($added as [$kind, $object]) {
            $self->added($kind, $object);
        }
        foreach (array_reverse(EntityKind::copied()) as $kind) {
            foreach ($before->all($kind) as $uid => $object) {
                if ($before->ownerOf($kind, (string) $uid) === $insertion->fragment && $after->find($kind, (string) $uid) === null) {
                    $self->removed($kind, (string) $uid, $object);
                }
            }
        }
        if ($self->operations !== [] || $version !== $insertion->version) {
            $pairs = [];
            foreach ($self->made as $of => $made) {
                $pairs[] = ['of' => (string) $of, 'made' => $made];
            }
            $self->operations[] = Operation::update(EntityKind::Insertion, $insertion->uid, ['version' => $version, 'pairs' => $pairs]);
        }

        return $self;
    }

    private function changed(EntityKind $kind, string $uid, Entity $was, Entity $now): void
    {
        $here = $this->plan->find($kind, $this->made[$uid]);
        if ($here === null) {
            return; // the project took it away
        }
        [$was, $now, $mine] = [$this->translated($kind, $was->fields()), $this->translated($kind, $now->fields()), $here->fields()];
        $merge = Merge::update($mine, array_filter(array_diff_key($now, self::PLACE),
            static fn (mixed $value, string $field): bool => ! Merge::same($value, $was[$field] ?? null), ARRAY_FILTER_USE_BOTH), $was,
            $kind->fields());
        foreach ($merge->conflicts as ['field' => $field, 'yours' => $theirs, 'theirs' => $ours]) {
            $this->conflicts[] = ['label' => $this->plan->nameOf($kind, $here->uid()), 'field' => $field, 'yours' => $ours,
                'theirs' => $theirs];
        }
        $merge->after === [] ?: $this->operations[] = Operation::update($kind, $here->uid(), $merge->after, $merge->before);
    }

    private function added(EntityKind $kind, Entity $object): void
    {
        $uid = 'u'.substr(hash('sha256', "{$this->insertion->uid} {$object->uid()}"), 0, 25);
        if ($kind->isOnProjectItself($object->fields())) {
            return;
        }
        $fields = $this->translated($kind, $object->fields());
        foreach ($kind->entry()->references as $reference) {
            $to = $object->fields()[$reference->field] ?? null;
            if (is_string($to) && in_array($reference->to, EntityKind::copied(), true) && ! $this->isHere($reference->to, $to)) {
                return; // hangs on something that the project took away
            }
        }
        $this->made[$object->uid()] = $uid;
        $this->added[$uid] = true;
        if ($kind === EntityKind::Activity) {
            unset($fields['code']); // generated beside its neighbours
        }
        $stamps = array_filter($kind->fields(), static fn ($field): bool => $field->stamp !== null);
        $this->operations[] = Operation::create($kind, $uid, array_diff_key($fields, $stamps));
    }

    private function isHere(EntityKind $kind, string $of): bool
    {
        $made = $this->made[$of] ?? null;

        return $made !== null && (isset($this->added[$made]) || $this->plan->find($kind, $made) !== null);
    }

    private function removed(EntityKind $kind, string $uid, Entity $was): void
    {
        $here = isset($this->made[$uid]) ? $this->plan->find($kind, $this->made[$uid]) : null;
        unset($this->made[$uid]);
        if ($here === null) {
            return;
        }
        $differing = array_filter(array_diff_key($this->translated($kind, $was->fields()), self::PLACE),
            static fn (mixed $value, string $field): bool => ! Merge::same($value, $here->fields()[$field] ?? null), ARRAY_FILTER_USE_BOTH);
        if ($differing === [] && ! ($kind === EntityKind::Wbs && $this->holdsMore($here->uid()))) {

            $this->operations[] = Operation::delete($kind, $here->uid());
        } else {
            $this->conflicts[] = ['label' => $this->plan->nameOf($kind, $here->uid()), 'field' => null, 'yours' => null, 'theirs' => null];
        }
    }

    /** Did the project put something of its own below a WBS element? */
    private function holdsMore(string $wbs): bool
    {
        $gone = [];
        foreach ($this->operations as $o) {
            $gone += $o->verb === Verb::Delete ? [$o->uid => true] : [];
        }
        foreach ([[$this->plan->wbs, 'parent'], [$this->plan->activities, 'wbs']] as [$list, $field]) {
            foreach ($list as $uid => $object) {
                if (Catalogue::value($object, $field) === $wbs && ! isset($gone[$uid])) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * Fields as they stand in the project: what they refer to is what was made of it.
     *
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    private function translated(EntityKind $kind, array $fields): array
    {
        foreach ($kind->entry()->references as $reference) {
            $to = $fields[$reference->field] ?? null;
            if (is_string($to) && $reference->to === EntityKind::Project) {
                $fields[$reference->field] = $this->insertion->project;
            } elseif (is_string($to) && isset($this->made[$to])) {
                $fields[$reference->field] = $this->made[$to];
            }
        }

        return $fields;
    }
}

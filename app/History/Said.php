<?php

declare(strict_types=1);

namespace App\History;

use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;

/** What operations did or would do, as a person reads it: verb, kind, what the object is called, fields with before and after. */
final class Said
{
    public function __construct(private readonly Labels $labels)
    {
    }

    /**
     * @param  list<Operation>  $operations
     * @return list<array<string, mixed>>
     */
    public function of(array $operations): array
    {
        $wanted = [];
        foreach ($operations as $o) {
            if ($o->verb === Verb::Create && ($called = Labels::called($o->kind, $o->after ?? [])) !== null) {
                $this->labels->learn($o->kind, $o->uid, $called); // what others here refer to may not be there yet
            }
            $wanted[$o->kind->value][$o->uid] = true;
            foreach ($o->kind->entry()->references as $r) {
                foreach ([$o->before, $o->after] as $side) {
                    if (is_string($side[$r->field] ?? null)) {
                        $wanted[$r->to->value][$side[$r->field]] = true;
                    }
                }
            }
        }
        foreach ($wanted as $kind => $uids) {
            $this->labels->expect(EntityKind::from($kind), $uids);
        }

        return array_map($this->item(...), $operations);
    }

    /** @return array<string, mixed> */
    private function item(Operation $o): array
    {
        $fields = [];
        foreach ($o->verb === Verb::Update ? array_keys(($o->before ?? []) + ($o->after ?? [])) : [] as $name) {
            $fields[] = ['field' => (string) $name, 'before' => $this->value($o->kind, (string) $name, $o->before[$name] ?? null),
                'after' => $this->value($o->kind, (string) $name, $o->after[$name] ?? null)];
        }

        return ['verb' => $o->verb->value, 'kind' => $o->kind->value, 'uid' => $o->uid, 'label' => $this->label($o), 'fields' => $fields];
    }

    /** What an operation is about: as it was called then, else as it is called now, else through what it refers to. */
    private function label(Operation $o): ?string
    {
        $fields = $o->verb === Verb::Update ? [] : ($o->after ?? []) + ($o->before ?? []);
        $own = Labels::called($o->kind, $fields) ?? $this->labels->of($o->kind, $o->uid);
        if ($own !== null) {
            return $own;
        }
        $through = [];
        foreach ($o->kind->entry()->references as $r) {
            $uid = $fields[$r->field] ?? null;
            if (is_string($uid) && $r->to !== EntityKind::Project) {
                $through[] = $this->labels->of($r->to, $uid) ?? '…';
            }
        }

        return $through === [] ? null : implode(' → ', $through);
    }

    /** A value as a person reads it: objects by what they are called; nothing for those out of reach. */
    private function value(EntityKind $kind, string $field, mixed $value): mixed
    {
        foreach ($kind->entry()->references as $r) {
            if ($r->field === $field) {
                return is_string($value) ? $this->labels->of($r->to, $value) : null;
            }
        }

        return $value;
    }
}

<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;

/** A new project is coded with what its branch, or one above it, asks for, and has the own fields that every project must have. */
final readonly class Demands
{
    public function __construct(private Plan $plan)
    {
    }

    /**
     * @param  list<Operation>  $operations
     *
     * @throws InvalidOperation
     */
    public function check(array $operations): void
    {
        $has = [];
        foreach ($operations as $o) {
            if ($o->verb === Verb::Create && in_array($o->kind, [EntityKind::Coding, EntityKind::OwnValue], true)
                && ($o->after['activity'] ?? null) === null && is_string($o->after['project'] ?? null)) {
                $of = $o->after['field'] ?? $this->plan->entries[is_string($o->after['entry'] ?? null) ? $o->after['entry'] : '']->codeSet
                    ?? $this->setOfNew($operations, $o->after['entry'] ?? null);
                $has[$o->after['project']][is_string($of) ? $of : ''] = true;
            }
        }
        foreach ($operations as $position => $o) {
            if ($o->kind === EntityKind::Project && $o->verb === Verb::Create && ($o->after['kept']
                ?? Kept::Here->value) === Kept::Here->value) {
                $missing = $this->missing($o->after['branch'] ?? null, $has[$o->uid] ?? []);
                if ($missing !== []) {
                    throw new InvalidOperation($position, 'codes', 'are missing: '.implode(', ', $missing));
                }
            }
        }
    }

    /**
     * @param  array<string, true>  $has
     * @return list<string> names of what is missing
     */
    private function missing(mixed $branch, array $has): array
    {
        $above = [];
        for ($at = is_string($branch) ? $this->plan->branches[$branch] ?? null : null; $at !== null;
            $at = $this->plan->branches[$at->parent ?? ''] ?? null) {
            $above[$at->uid] = true;
        }
        $missing = [];
        foreach ($this->plan->codeSets as $set) {
            if ($set->demandedOn !== null && isset($above[$set->demandedOn]) && ! isset($has[$set->uid])) {
                $missing[] = $set->name;
            }
        }
        foreach ($this->plan->ownFields as $field) {
            if ($field->required && $field->scope === CodeScope::Project && ! isset($has[$field->uid])) {
                $missing[] = $field->name;
            }
        }

        return $missing;
    }

    /** @param  list<Operation>  $operations */
    private function setOfNew(array $operations, mixed $entry): ?string
    {
        foreach ($operations as $o) {
            if ($o->kind === EntityKind::Entry && $o->uid === $entry && is_string($o->after['codeSet'] ?? null)) {
                return $o->after['codeSet'];
            }
        }

        return null;
    }
}

<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;

/** Who codes with a set, adds entries to it and changes them: what the set itself says, as it is before the operations. */
final class CodeRights
{
    /** @var array<string, string> uid of an entry that the operations make => set */
    private array $made = [];

    /** @param  list<Operation>  $operations */
    public function __construct(private readonly Plan $plan, array $operations)
    {
        foreach ($operations as $o) {
            if ($o->kind === EntityKind::Entry && $o->verb === Verb::Create && is_string($o->after['codeSet'] ?? null)) {
                $this->made[$o->uid] = $o->after['codeSet'];
            }
        }
    }

    /**
     * The least role for an operation; for codings on the branch of what is coded, for entries on any branch.
     *
     * @param  Role  $usual  where no set says anything, as for sets that the same operations make
     */
    public function needed(Operation $o, Role $usual): Role
    {
        $needed = null;
        foreach ($this->sets($o) as $set) {
            $role = match (true) {
                $o->kind === EntityKind::Coding => $set->assignedBy,
                $o->verb === Verb::Create => $set->addedBy,
                default => $set->editedBy,
            };
            $needed = $needed === null || $role->reaches($needed) ? $role : $needed;
        }

        return $needed ?? $usual;
    }

    /** @return list<CodeSet> there already, that an operation on a coding or an entry concerns, before and after it */
    private function sets(Operation $o): array
    {
        $now = $this->plan->find($o->kind, $o->uid);
        $uids = match (true) {
            $o->kind === EntityKind::Coding => [$this->setOf($o->after['entry'] ?? null), $now instanceof Coding
                ? $this->setOf($now->entry) : null],
            $o->kind === EntityKind::Entry => [$o->after['codeSet'] ?? null, $now instanceof CodeEntry ? $now->codeSet : null],
            default => [],
        };
        $sets = array_map(fn (mixed $uid): ?CodeSet => is_string($uid) ? $this->plan->codeSets[$uid] ?? null : null, $uids);

        return array_values(array_filter($sets));
    }

    private function setOf(mixed $entry): ?string
    {
        return is_string($entry) ? $this->plan->entries[$entry]->codeSet ?? $this->made[$entry] ?? null : null;
    }
}

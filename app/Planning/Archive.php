<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Branch;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/**
 * What is archived rests: a branch with everything below it, or a project. It is calculated like everything else, so that
 * what waits for it keeps its dates, and it is not edited until it is brought back.
 */
final readonly class Archive
{
    /** what may be changed on something that rests: that it rests, and where it hangs */
    private const FREE = ['archived' => 0, 'branch' => 0, 'parent' => 0];

    /** @var array<string, true> projects that are deleted, with what is in them */
    private array $gone;

    /** @param  list<Operation>  $operations  all that are asked for together */
    public function __construct(private Plan $plan, array $operations = [])
    {
        $this->gone = array_fill_keys(array_map(static fn (Operation $o): string => $o->uid, array_filter($operations,
            static fn (Operation $o): bool => $o->verb === Verb::Delete && $o->kind === EntityKind::Project)), true);
    }

    /** @throws InvalidOperation */
    public function check(int $position, Operation $o): void
    {
        if ($o->kind === EntityKind::Branch || $o->kind === EntityKind::Project) {
            if ($o->verb === Verb::Delete || ($o->verb === Verb::Update && array_diff_key($o->after ?? [], self::FREE) === [])) {
                return;
            }
            $above = $o->after[$o->kind === EntityKind::Branch ? 'parent' : 'branch'] ?? null;
            if ($o->verb === Verb::Create && is_string($above) && $this->branchRests($above)) {
                throw new InvalidOperation($position, $o->kind === EntityKind::Branch ? 'parent' : 'branch',
                    "is archived; bring {$this->plan->branches[$above]->name} back first");
            }
        }
        $to = $o->kind === EntityKind::Project ? null : $o->after['project'] ?? null; // where it comes to, for what is moved
        $project = $o->kind === EntityKind::Project ? $o->uid : $this->plan->ownerOf($o->kind, $o->uid) ?? $this->ownerToBe($o);
        foreach (array_filter([$project, is_string($to) ? $to : null], is_string(...)) as $at) {
            if (! isset($this->gone[$at]) && $this->projectRests($at)) {
                throw new InvalidOperation($position, null, "{$this->plan->projects[$at]->key} is archived; bring it back first");
            }
        }
        if ($o->kind === EntityKind::Branch && $this->branchRests($o->uid)) {
            throw new InvalidOperation($position, null, "branch {$this->plan->branches[$o->uid]->name} is archived; bring it back first");
        }
    }

    public function projectRests(string $uid): bool
    {
        $project = $this->plan->projects[$uid] ?? null;

        return $project !== null && ($project->archived || ($project->branch !== null && $this->branchRests($project->branch)));
    }

    /** Is the branch archived, or one above it? */
    public function branchRests(string $uid): bool
    {
        for ($at = $this->plan->branches[$uid] ?? null; $at instanceof Branch; $at = $this->plan->branches[$at->parent ?? ''] ?? null) {
            if ($at->archived) {
                return true;
            }
        }

        return false;
    }

    /** The project that an object will belong to. */
    private function ownerToBe(Operation $o): ?string
    {
        $through = $o->verb === Verb::Create ? $o->kind->entry()->ownedThrough : null;
        $uid = $through === null ? null : $o->after[$through->field] ?? null;

        return $through === null || ! is_string($uid) ? null
            : ($through->to === EntityKind::Project ? $uid : $this->plan->ownerOf($through->to, $uid));
    }
}

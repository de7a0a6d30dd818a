<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;
use App\Access\Role;
use Illuminate\Auth\Access\AuthorizationException;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Plan;

/**
 * May the user carry out these operations? Asked before anything else, so that no later answer tells of what is out of
 * reach: an object that the user may not see does not exist for them, neither as the subject nor as a reference.
 *
 * Changing a project needs a role on its branch, a link belongs to the project of its successor and needs a look at the
 * other one. Calendars belong to the enterprise: planners may add some, administrators change them; what one's own
 * change set added, its undo may take away again.
 */
final class OperationAccess
{
    /** @var array<string, array<string, string>> kind => uid => uid of the owning project, '' for the enterprise, of objects that the operations make */
    private array $made = [];

    public function __construct(private readonly Reach $reach, private readonly Plan $plan, private readonly Role $role, private readonly bool $undo)
    {
    }

    /**
     * @param  list<Operation>  $operations  as asked for
     *
     * @throws AuthorizationException|InvalidOperation
     */
    public function check(array $operations): void
    {
        foreach ($operations as $position => $o) {
            if ($o->verb === Verb::Create) {
                $this->creation($position, $o);
            } elseif (! isset($this->made[$o->kind->value][$o->uid])) {
                $this->existing($position, $o);
            }
            $this->references($position, $o);
            $this->branch($position, $o);
        }
    }

    /**
     * What a deletion takes along may lie in projects of others: links whose successor is theirs.
     *
     * @param  list<Operation>  $applied
     *
     * @throws AuthorizationException
     */
    public function checkAlong(array $applied): void
    {
        foreach ($applied as $o) {
            if ($o->verb !== Verb::Delete || $o->kind !== EntityKind::Link) {
                continue;
            }
            $project = $this->plan->ownerOf($o->kind, $o->uid);
            if ($project !== null && ! $this->reach->may($this->role, (int) $this->plan->projects[$project]->branch)) {
                throw new AuthorizationException('This would delete handovers that belong to the takers’ projects, which you may not plan. Ask their planners to delete the links first.');
            }
        }
    }

    private function creation(int $position, Operation $o): void
    {
        $entry = $o->kind->entry();
        if ($entry->owner === Owner::Enterprise) {
            $this->made[$o->kind->value][$o->uid] = '';
            $this->reach->requireAnywhere($this->role);

            return;
        }
        if ($entry->ownedThrough === null) {
            $this->made[$o->kind->value][$o->uid] = $o->uid;

            return; // its branch is checked below
        }
        $through = $entry->ownedThrough;
        $to = $o->after[$through->field] ?? null;
        if (! is_string($to)) {
            return; // reading the object will say that it is missing
        }
        $project = $this->made[$through->to->value][$to] ?? $this->plan->ownerOf($through->to, $to);
        if ($project === null) {
            return; // a reference to nothing, refused below
        }
        $this->made[$o->kind->value][$o->uid] = $project;
        if (isset($this->plan->projects[$project]) && $this->sees($project)) {
            $this->mayChange($project);
        }
    }

    private function existing(int $position, Operation $o): void
    {
        if ($o->kind->entry()->owner === Owner::Enterprise) {
            $this->reach->requireAnywhere($this->undo ? $this->role : Role::Administrator);

            return;
        }
        if (! $this->isVisible($o->kind, $o->uid)) {
            throw new InvalidOperation($position, 'uid', "this {$o->kind->entry()->noun} does not exist (any more)");
        }
        $this->mayChange((string) $this->plan->ownerOf($o->kind, $o->uid));
    }

    private function references(int $position, Operation $o): void
    {
        foreach ($o->kind->entry()->references as $reference) {
            $to = $o->after[$reference->field] ?? null;
            if (! is_string($to) || isset($this->made[$reference->to->value][$to])) {
                continue;
            }
            $isElement = $reference->to === EntityKind::Activity && $this->isVisible(EntityKind::Wbs, $to); // said better by the check of the plan
            if (! $isElement && ! $this->isVisible($reference->to, $to)) {
                throw new InvalidOperation($position, $reference->field, 'does not exist');
            }
        }
    }

    /** A project is made on, or moved to, a branch. */
    private function branch(int $position, Operation $o): void
    {
        if ($o->kind !== EntityKind::Project || $o->verb === Verb::Delete || ($o->verb === Verb::Update && ! array_key_exists('branch', $o->after ?? []))) {
            return;
        }
        $branch = $o->after['branch'] ?? null;
        if (! is_string($branch) || preg_match('/^[1-9]\d{0,17}$/D', $branch) !== 1 || $this->reach->roleOn((int) $branch) === null) {
            throw new InvalidOperation($position, 'branch', 'does not exist');
        }
        $this->reach->require($this->role, (int) $branch);
    }

    private function isVisible(EntityKind $kind, string $uid): bool
    {
        $entity = $this->plan->find($kind, $uid);
        if ($entity === null) {
            return false;
        }
        if ($kind->entry()->owner === Owner::Enterprise) {
            return true;
        }

        // a handover shows at both its ends
        return $this->sees((string) $this->plan->ownerOf($kind, $uid)) || ($entity instanceof Link && $this->sees((string) $this->plan->projectOf($entity->from)));
    }

    private function sees(string $project): bool
    {
        return isset($this->plan->projects[$project]) && $this->reach->may(Role::Viewer, (int) $this->plan->projects[$project]->branch);
    }

    private function mayChange(string $project): void
    {
        $this->reach->require($this->role, (int) $this->plan->projects[$project]->branch);
    }
}

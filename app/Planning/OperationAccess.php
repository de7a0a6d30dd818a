<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Owners;
use App\Access\Reach;
use App\Database\Enterprise;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;

/**
 * May the user carry out these operations? Asked before anything else, so that no later answer tells of what is out of
 * reach: an object that the user may not see does not exist for them, neither as the subject nor as a reference.
 *
 * Changing a project needs a role on its branch, a link belongs to the project of its successor and needs a look at the
 * other one. A branch is made, named and deleted by those who may plan it, moved by those who administer both places: what
 * lies above decides who reaches it. Calendars, code sets and entries belong to the enterprise: planners may add some,
 * administrators of where they belong change them ({@see Owners}), unless the set says otherwise ({@see CodeRights}); what one's own
 * change set added, its undo may take away again. What is archived rests ({@see Archive}).
 */
final class OperationAccess
{
    /** as what projects are made here */
    private const MADE_HERE = ['here', 'template', 'fragment'];

    /** fields of an outside project that are ours */
    private const OURS = ['key' => 0, 'branch' => 0, 'colour' => 0, 'lead' => 0];

    /**
     * @var array<string, array<string, string>> kind => uid => uid of the owning project, '' for the enterprise, of objects that
     *     the operations make
     */
    private array $made = [];

    /** @var array<string, int> uid => id of the branch that is there already, above a branch that the operations make */
    private array $madeBelow = [];

    private CodeRights $rights;

    private readonly Owners $owners;

    public function __construct(private readonly Reach $reach, private readonly Plan $plan, private readonly Ids $ids,
        private readonly Role $role, private readonly bool $undo,
        private readonly bool $fromOutside)
    {
        $this->owners = new Owners($reach);
    }

    /**
     * @param  list<Operation>  $operations  as asked for
     *
     * @throws AuthorizationException|InvalidOperation
     */
    public function check(array $operations): void
    {
        $this->rights = new CodeRights($this->plan, $operations);
        $archive = new Archive($this->plan, $operations);
        $this->fromOutside || $this->undo ?: (new Demands($this->plan))->check($operations);

        foreach (self::ownersFirst($operations) as $position => $o) {
            if ($o->verb === Verb::Create) {
                $this->creation($position, $o);
            }
        }
        foreach ($operations as $position => $o) {
            if ($o->verb !== Verb::Create && ! isset($this->made[$o->kind->value][$o->uid])) {
                $this->existing($position, $o);
            }
            $this->references($position, $o);
            $this->projectOnBranch($position, $o);
            if (! $this->fromOutside && ! $this->undo) {
                $this->keptHere($position, $o);
                $this->inUse($position, $o);
            }

            $archive->check($position, $o);

        }
    }

    /**
     * In the order of kinds, branches below those above them: an undo may make things in any order.
     *
     * @param  list<Operation>  $operations
     * @return array<int, Operation> position => operation
     */
    private static function ownersFirst(array $operations): array
    {
        $order = array_flip(EntityKind::names());
        $parents = [];
        foreach ($operations as $o) {
            if ($o->kind === EntityKind::Branch) {
                $parents[$o->uid] = $o->after['parent'] ?? null;
            }
        }
        $depth = [];
        foreach ($parents as $uid => $parent) {
            for ($depth[$uid] = 0; is_string($parent) && $depth[$uid] <= count($parents); $parent = $parents[$parent] ?? null) {
                $depth[$uid]++;
            }
        }
        uasort($operations, static fn (Operation $a, Operation $b): int => [$order[$a->kind->value],
            $depth[$a->uid] ?? 0] <=> [$order[$b->kind->value], $depth[$b->uid] ?? 0]);

        return $operations;
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
            if ($project !== null && ! $this->reach->may($this->role, (int) $this->branchOf($project))) {
                throw new AuthorizationException('This would delete handovers that belong to the takers’ projects, which you may not '
                    .'plan. Ask their planners to delete the links first.');
            }
        }
    }

    private function creation(int $position, Operation $o): void
    {
        $entry = $o->kind->entry();
        if ($entry->owner === Owner::Enterprise) {
            $this->made[$o->kind->value][$o->uid] = '';
            $above = $o->kind === EntityKind::Branch ? $this->branch($o->after['parent'] ?? null) : null;
            if ($above === null) {
                $this->reach->requireAnywhere($this->rights->needed($o, $this->role));
            } else {
                $this->reach->require($this->role, $above);
                $this->madeBelow[$o->uid] = $above;
            }

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
            $this->mayChange($project, $this->rights->needed($o, $this->role));
        }
    }

    private function existing(int $position, Operation $o): void
    {
        if ($o->kind === EntityKind::Branch && $this->isVisible($o->kind, $o->uid)) {
            $this->existingBranch($position, $o, $this->ids->id($o->kind, $o->uid));

            return;
        }
        if ($o->kind !== EntityKind::Branch && $o->kind->entry()->owner === Owner::Enterprise) {
            $this->existingShared($o);

            return;
        }
        if (! $this->isVisible($o->kind, $o->uid)) {
            throw new InvalidOperation($position, 'uid', "this {$o->kind->entry()->noun} does not exist (any more)");
        }
        $needed = $this->rights->needed($o, $this->role);
        $this->mayChange((string) $this->plan->ownerOf($o->kind, $o->uid), $needed);
        $to = $this->movesTo($o);
        if ($to !== null && isset($this->plan->projects[$to]) && $this->sees($to)) { // else it is refused as a reference
            $this->mayChange($to, $needed);
        }
    }

    /** Something of the enterprise: changed where it belongs or above, unless its set leaves that to others. */
    private function existingShared(Operation $o): void
    {
        $usual = Owners::role($o->kind);
        $needed = $this->rights->needed($o, $usual);
        if ($this->undo && $o->verb === Verb::Delete) {
            $this->reach->requireAnywhere($this->role); // what one made oneself
        } elseif ($needed !== $usual) {
            $this->reach->requireAnywhere($needed);
        } else {
            $now = $this->plan->find($o->kind, $o->uid);
            [$kind, $uid] = match (true) {
                $now instanceof CodeEntry => [EntityKind::CodeSet, $now->codeSet],
                $now instanceof LevelCode => [EntityKind::LevelScheme, $now->scheme],
                default => [$o->kind, $o->uid],
            };
            if (! $this->owners->may($kind, $uid)) {
                throw new AuthorizationException("You need the {$usual->value} role where this {$kind->entry()->noun} belongs, or above.");
            }
        }
    }

    /** The project that an object of another one is to come to; null for most operations. */
    private function movesTo(Operation $o): ?string
    {
        $to = $o->verb === Verb::Update && $o->kind !== EntityKind::Project ? $o->after['project'] ?? null : null;

        return is_string($to) ? $to : null;
    }

    private function references(int $position, Operation $o): void
    {
        foreach ($o->kind->entry()->references as $reference) {
            $to = $o->after[$reference->field] ?? null;
            // what is undone led there before: the way back needs no look at the other end
            if (! is_string($to) || isset($this->made[$reference->to->value][$to])
                || ($this->undo && $this->plan->find($reference->to, $to) !== null)) {
                continue;
            }
            $isElement = $reference->to === EntityKind::Activity
                && $this->isVisible(EntityKind::Wbs, $to); // said better by the check of the plan
            if (! $isElement && ! $this->isVisible($reference->to, $to)) {
                throw new InvalidOperation($position, $reference->field, 'does not exist');
            }
        }
    }

    private function existingBranch(int $position, Operation $o, int $branch): void
    {
        $moves = array_key_exists('parent', $o->after ?? []);
        $this->reach->require($moves ? Role::Administrator : $this->role, $branch);
        $to = $moves ? $this->branch($o->after['parent'] ?? null) : null;
        $to === null ?: $this->reach->require(Role::Administrator, $to);
        $grants = $o->verb === Verb::Delete ? DB::table('grants')->where('branch_id', $branch)->count() : 0;
        if ($grants > 0) {
            throw new InvalidOperation($position, null,
                "{$this->plan->nameOf($o->kind, $o->uid)} still has ".($grants === 1 ? '1 role'
                : "{$grants} roles").' granted on it; take them away first');
        }
    }

    /** What is retired stays where it is, and is not assigned any more. */
    private function inUse(int $position, Operation $o): void
    {
        $entry = $o->kind === EntityKind::Coding ? $o->after['entry'] ?? null : null;
        if (is_string($entry) && ($this->plan->entries[$entry]->retired ?? false)) {
            throw new InvalidOperation($position, 'entry', "{$this->plan->entryName($entry)} is retired");
        }
        $resource = $o->kind === EntityKind::Assignment ? $o->after['resource'] ?? null : null;
        is_string($resource) && $this->assigned($position, $resource, $o);
        // what is copied, or comes with a file, keeps the calendar that it has there
        foreach ($this->undo || $o->verb !== Verb::Update ? [] : $o->kind->entry()->references as $reference) {
            $to = $reference->to === EntityKind::Calendar ? $o->after[$reference->field] ?? null : null;
            if (is_string($to) && ($this->plan->calendars[$to]->retired ?? false)) {
                throw new InvalidOperation($position, $reference->field, "{$this->plan->callName(EntityKind::Calendar, $to)} is retired");
            }
        }
    }

    /** A resource is assigned while it is not retired, and where its branch lets others use it. */
    private function assigned(int $position, string $uid, Operation $o): void
    {
        $resource = $this->plan->resources[$uid] ?? null;
        $now = $this->plan->find($o->kind, $o->uid);
        if ($resource === null || ($now instanceof Assignment && $now->resource === $uid)) {
            return;
        }
        if ($resource->retired) {
            throw new InvalidOperation($position, 'resource', "{$resource->title()} is retired");
        }
        $project = $this->made[$o->kind->value][$o->uid] ?? $this->plan->ownerOf($o->kind, $o->uid);
        $branch = $project === null || ! isset($this->plan->projects[$project]) ? null : $this->branchOf($project);
        if ($resource->ownBranchOnly && $branch !== null && ! $this->owners->isBelow(EntityKind::Resource, $uid, $branch)) {
            throw new InvalidOperation($position, 'resource', "{$resource->title()} is only for projects of the branch that it belongs to");
        }
    }

    /** What is kept outside comes from there and is not edited here, apart from where it hangs and how it is told apart. */
    private function keptHere(int $position, Operation $o): void
    {
        $ends = match ($o->kind) {
            EntityKind::Project => $o->verb === Verb::Update && array_diff_key($o->after ?? [], self::OURS) !== [] ? [$o->uid] : [],
            EntityKind::Wbs, EntityKind::Activity,
            EntityKind::Assignment => [$this->made[$o->kind->value][$o->uid] ?? $this->plan->ownerOf($o->kind, $o->uid)],
            EntityKind::Link => $this->ends($o),
            default => [],
        };
        $outside = array_filter($ends, fn (?string $p): bool => ($this->plan->projects[$p ?? ''] ?? null)?->isOutside() === true);
        $now = $o->kind === EntityKind::Project ? $this->plan->projects[$o->uid] ?? null : null;
        $to = $o->kind === EntityKind::Project && $o->verb !== Verb::Delete ? $o->after['kept'] ?? null : null;
        $fixed = $o->verb === Verb::Update && $to !== null && $to !== $now?->kept->value;
        $kept = ($fixed && ($now?->isOutside() === true || $to === Kept::Outside->value))
            || ($o->verb === Verb::Create && $to !== null && ! in_array($to, self::MADE_HERE, true));
        if ($fixed && ! $kept) {
            throw new InvalidOperation($position, 'kept', 'is said once, when it is made');
        }
        $taker = $this->plan->projects[$this->movesTo($o) ?? ''] ?? null;
        if ($taker?->isOutside() === true) {
            $outside = $ends = [$taker->uid];
        }
        if ($kept || ($outside !== [] && count($outside) === count($ends))) {
            $key = $this->plan->projects[(string) reset($outside)]->key ?? 'A project';
            throw new InvalidOperation($position, $kept ? 'kept' : null,
                "{$key} is kept outside; what is in it comes from there and is not edited here");
        }
    }

    /** @return list<string|null> uids of the projects that a link joins */
    private function ends(Operation $o): array
    {
        $link = $this->plan->find($o->kind, $o->uid);
        $ends = $link instanceof Link ? ['from' => $link->from, 'to' => $link->to] : [];

        return array_map(fn (string $end): ?string => is_string($uid = $o->after[$end] ?? $ends[$end] ?? null)
            ? $this->made['activity'][$uid] ?? $this->plan->projectOf($uid) : null, ['from', 'to']);
    }

    /** A project is made on, or moved to, a branch. */
    private function projectOnBranch(int $position, Operation $o): void
    {
        if ($o->kind !== EntityKind::Project || $o->verb === Verb::Delete
            || ($o->verb === Verb::Update && ! array_key_exists('branch', $o->after ?? []))) {
            return;
        }
        $to = $o->after['branch'] ?? null;
        $this->reach->require($this->role, $this->branch($to)
            ?? throw new InvalidOperation($position, 'branch', $to === null ? 'is missing' : 'does not exist'));
    }

    /** The id of a branch within reach, or of the one above it when the operations make it; null for any other. */
    private function branch(mixed $uid): ?int
    {
        if (! is_string($uid)) {
            return null;
        }
        $id = $this->madeBelow[$uid] ?? ($this->ids->has(EntityKind::Branch, $uid) ? $this->ids->id(EntityKind::Branch, $uid) : null);

        return $id !== null && $this->reach->roleOn($id) !== null ? $id : null;
    }

    private function branchOf(string $project): ?int
    {
        return $this->branch($this->plan->projects[$project]->branch);
    }

    private function isVisible(EntityKind $kind, string $uid): bool
    {
        $entity = $this->plan->find($kind, $uid);
        if ($entity === null) {
            return false;
        }
        if ($kind === EntityKind::Branch) {
            return $this->branch($uid) !== null;
        }
        if ($kind->entry()->owner === Owner::Enterprise) {
            return true;
        }

        // a handover shows at both its ends
        return $this->sees((string) $this->plan->ownerOf($kind, $uid))
            || ($entity instanceof Link && $this->sees((string) $this->plan->projectOf($entity->from)));
    }

    private function sees(string $project): bool
    {
        return isset($this->plan->projects[$project]) && $this->branchOf($project) !== null;
    }

    private function mayChange(string $project, Role $needed): void
    {
        $this->reach->require($needed, (int) $this->branchOf($project));
    }
}

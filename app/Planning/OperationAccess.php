<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;
use App\Access\Role;
use Illuminate\Auth\Access\AuthorizationException;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/**
 * May the user carry out these operations? Planning a project needs the role planner on its branch; a handover also
 * needs a look at the giver's project. Calendars belong to everybody: planners may add some, administrators change them.
 */
final class OperationAccess
{
    public function __construct(private readonly Reach $reach, private readonly Plan $before, private readonly Plan $after)
    {
    }

    /**
     * @param  list<Operation>  $operations  as applied
     *
     * @throws AuthorizationException
     */
    public function check(array $operations): void
    {
        foreach ($operations as $operation) {
            match ($operation->kind) {
                EntityKind::Calendar => $this->reach->requireAnywhere($operation->verb === Verb::Create ? Role::Planner : Role::Administrator),
                EntityKind::Project => $this->project($operation->uid),
                EntityKind::Wbs, EntityKind::Activity => $this->row($operation),
                EntityKind::Link => $this->link($operation->uid),
            };
        }
    }

    private function project(string $uid): void
    {
        foreach ([$this->before, $this->after] as $plan) {
            if (isset($plan->projects[$uid])) {
                $this->reach->require(Role::Planner, (int) $plan->projects[$uid]->branch);
            }
        }
    }

    private function row(Operation $operation): void
    {
        foreach ([$this->before, $this->after] as $plan) {
            $project = ($operation->kind === EntityKind::Wbs ? $plan->wbs[$operation->uid] ?? null : $plan->activities[$operation->uid] ?? null)?->project;
            if ($project !== null) {
                $this->project($project);
            }
        }
    }

    private function link(string $uid): void
    {
        foreach ([$this->before, $this->after] as $plan) {
            $link = $plan->links[$uid] ?? null;
            if ($link === null) {
                continue;
            }
            $this->project((string) $plan->projectOf($link->to));
            $giver = $plan->projects[(string) $plan->projectOf($link->from)] ?? null;
            if ($giver !== null) {
                $this->reach->require(Role::Viewer, (int) $giver->branch);
            }
        }
    }
}

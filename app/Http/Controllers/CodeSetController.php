<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Owners;
use App\Access\Reach;
use App\Planning\PlanStore;
use App\Selection\EnterpriseColumns;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;

/** All code sets with their entries, how often each is used as far as the user sees it, and what the user may do with them. */
final class CodeSetController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function __invoke(): JsonResponse
    {
        [$plan] = PlanStore::load([]);
        $owners = new Owners($this->reach);
        $uses = $beyond = [];
        foreach (DB::table('codings as c')->join('code_entries as e', 'e.id', '=', 'c.entry_id')
            ->join('projects as p', 'p.id', '=', 'c.project_id')->groupBy('e.uid', 'p.branch_id')
            ->get(['e.uid', 'p.branch_id', DB::raw('COUNT(*) AS uses')]) as $row) {
            /** @var object{uid: string, branch_id: int, uses: int} $row */
            $seen = $this->reach->roleOn($row->branch_id) !== null;
            $uses[$row->uid] = ($uses[$row->uid] ?? 0) + ($seen ? $row->uses : 0);
            $beyond[$row->uid] = ($beyond[$row->uid] ?? false) || ! $seen;
        }

        return new JsonResponse(['codeSets' => array_map(fn (CodeSet $s): array => self::shown($s, $plan) + [
            'mayChange' => $owners->may(EntityKind::CodeSet, $s->uid), 'mayAdd' => $this->reach->mayAnywhere($s->addedBy),
            'mayEdit' => $s->editedBy === Role::Administrator ? $owners->may(EntityKind::CodeSet, $s->uid)
                : $this->reach->mayAnywhere($s->editedBy),
        ], (new EnterpriseColumns($plan, $this->reach))->sets()), 'uses' => (object) $uses, 'usedBeyond' => (object) $beyond]);
    }

    /** @return array<string, mixed> a code set with its entries in order, in written form */
    public static function shown(CodeSet $set, Plan $plan): array
    {
        $entries = array_values(array_filter($plan->entries, static fn (CodeEntry $e): bool => $e->codeSet === $set->uid));
        usort($entries, static fn (CodeEntry $a, CodeEntry $b): int => [$a->position, $a->uid] <=> [$b->position, $b->uid]);

        return ['uid' => $set->uid] + $set->fields()
            + ['entries' => array_map(static fn (CodeEntry $e): array => ['uid' => $e->uid] + $e->fields(), $entries)];
    }
}

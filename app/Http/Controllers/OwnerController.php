<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Owners;
use App\Access\Reach;
use App\Planning\PlanStore;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Reihe\Core\Plan\EntityKind;

/** Whose the calendars, code sets, own fields and level schemes are: a branch, from which and from above which they are changed. */
final class OwnerController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(): JsonResponse
    {
        [$plan] = PlanStore::load([]);
        $owners = new Owners($this->reach);
        $uids = $this->reach->branchUids();
        $shown = [];
        foreach (EntityKind::cases() as $kind) {
            foreach (Owners::has($kind) ? $plan->all($kind) : [] as $thing) {
                $shown[] = ['kind' => $kind->value, 'uid' => $thing->uid(), 'branch' => $uids[$owners->of($kind, $thing->uid())] ?? null,
                    'mayChange' => $owners->may($kind, $thing->uid())];
            }
        }

        return new JsonResponse(['owners' => $shown]);
    }

    public function update(Request $request, string $kind, string $uid): JsonResponse
    {
        $of = EntityKind::tryFrom($kind);
        abort_if($of === null || ! Owners::has($of) || PlanStore::load([])[0]->find($of, $uid) === null, 404);
        /** @var array{branch: string} $input */
        $input = $request->validate(['branch' => 'required|string|max:64']);
        (new Owners($this->reach))->give($of, $uid, $input['branch']);

        return $this->index();
    }
}

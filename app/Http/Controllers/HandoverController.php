<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Drafts\DraftPlan;
use App\Models\ChangeSet;
use App\Planning\RippleView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Role;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** What an agreement about a handover could be, proposed from the giver's side: the taker's project says yes or no. */
final class HandoverController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function propose(Request $request, string $uid): JsonResponse
    {
        /** @var array{agreed: string|null, note?: string|null} $input */
        $input = $request->validate(['agreed' => 'present|nullable|string', 'note' => 'nullable|string|max:500']);
        /** @var object{branch_id: int, from_code: string, from_key: string}|null $giver */
        $giver = $this->reach->limit(DB::table('links')->join('projects', 'projects.id', '=', 'links.from_project_id')
            ->join('activities', 'activities.id', '=', 'links.from_id'))->where('links.uid', $uid)->where('links.handover', 1)
            ->first(['projects.branch_id', 'activities.code as from_code', 'projects.key as from_key']);
        abort_if($giver === null, 404);
        $this->reach->require(Role::Planner, $giver->branch_id);
        try {
            $agreed = $input['agreed'];
            $agreed === null ?: Instant::parse($agreed);
        } catch (InvalidInstant $e) {
            throw new InvalidField('agreed', $e->getMessage());
        }
        $after = ['agreed' => $agreed] + (isset($input['note']) ? ['note' => $input['note'] === '' ? null : $input['note']] : []);
        $plan = DraftPlan::of([], [Operation::update(EntityKind::Link, $uid, $after)], [], null);
        $link = $plan->after->plan->links[$uid] ?? null;
        if (! $link instanceof Link || $plan->added === []) {
            throw new InvalidOperation(0, 'agreed', 'is what is agreed already');
        }
        $agreed = $link->agreed === null ? null : Instant::said($link->agreed);
        $stored = ChangeSet::query()->create(['uid' => (string) Str::ulid(), 'author_id' => $this->reach->user->id, 'source' => 'handover',
            'state' => 'proposed', 'reason' => "{$giver->from_key}/{$giver->from_code}: ".($agreed === null ? 'no agreed date'
                : "agreed {$agreed}"), 'operations' => $plan->added, 'operation_count' => count($plan->added),
            'ripple' => $plan->ripple()->toArray(), 'created_at' => now()]);

        return new JsonResponse(['changeSet' => $stored->uid, 'ripple' => RippleView::of($stored->ripple, $this->reach)], 201);
    }
}

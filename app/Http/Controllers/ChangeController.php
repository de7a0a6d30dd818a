<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Board\ChangeAnswer;
use App\Models\ChangeSet;
use App\Models\User;
use App\Planning\Outcome;
use App\Planning\Planning;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;

/** Change sets: made, tried, undone, and proposals decided. */
final class ChangeController
{
    private const MOST_OPERATIONS = 20_000;

    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(): JsonResponse
    {
        $visible = array_keys($this->reach->projects());
        $list = ChangeSet::query()->with('author')->whereIn('id', DB::table('change_set_projects')->whereIn('project_uid', $visible)->select('change_set_id'))
            ->where('state', '!=', 'proposed')->latest('id')->limit(100)->get();

        return new JsonResponse(['changes' => $list->map(static fn (ChangeSet $c): array => [
            'uid' => $c->uid, 'author' => $c->author?->name, 'source' => $c->source, 'reason' => $c->reason, 'state' => $c->state,
            'created' => $c->created_at->toIso8601String(), 'operations' => count($c->operations),
        ])->all()]);
    }

    public function create(Request $request): JsonResponse
    {
        /** @var array{revisions?: array<string, int>, reason?: string|null} $input */
        $input = $request->validate([
            'operations' => 'required|array|min:1|max:'.self::MOST_OPERATIONS,
            'revisions' => 'array',
            'revisions.*' => 'integer|min:0',
            'dryRun' => 'boolean',
            'reason' => 'nullable|string|max:500',
        ]);
        $operations = [];
        foreach (array_values($request->array('operations')) as $position => $data) {
            if (! is_array($data)) {
                throw new InvalidOperation($position, null, 'must be an object');
            }
            $operations[] = Operation::fromArray($data, $position);
        }
        $revisions = array_map(intval(...), $input['revisions'] ?? []);
        $planning = $this->planning($request);
        $outcome = $request->boolean('dryRun')
            ? $planning->dryRun($operations, $revisions)
            : $planning->commit($operations, $revisions, reason: $input['reason'] ?? '');

        return $this->answer($request, $outcome);
    }

    public function undo(Request $request, ChangeSet $changeSet): JsonResponse
    {
        $this->own($changeSet);
        if ($changeSet->state !== 'applied') {
            throw ValidationException::withMessages(['state' => 'This change set is not applied any more.']);
        }

        return $this->answer($request, $this->planning($request)->undo($changeSet));
    }

    public function apply(Request $request, ChangeSet $changeSet): JsonResponse
    {
        $this->proposed($changeSet);

        return $this->answer($request, $this->planning($request)->commit($changeSet->operationList(), source: $changeSet->source, proposal: $changeSet));
    }

    public function reject(ChangeSet $changeSet): JsonResponse
    {
        $this->proposed($changeSet);
        $changeSet->update(['state' => 'rejected', 'decided_at' => now()]);

        return new JsonResponse(['uid' => $changeSet->uid, 'state' => 'rejected']);
    }

    private function proposed(ChangeSet $changeSet): void
    {
        $this->own($changeSet);
        if ($changeSet->state !== 'proposed') {
            throw ValidationException::withMessages(['state' => 'This proposal was decided already.']);
        }
    }

    /** @throws AuthorizationException */
    private function own(ChangeSet $changeSet): void
    {
        if ($changeSet->author_id !== $this->reach->user->id) {
            throw new AuthorizationException('This change set belongs to somebody else.');
        }
    }

    private function planning(Request $request): Planning
    {
        /** @var User $user */
        $user = $request->user();

        return new Planning($user);
    }

    private function answer(Request $request, Outcome $outcome): JsonResponse
    {
        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->string('board')));
    }
}

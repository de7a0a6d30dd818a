<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Drafts\DraftBoard;
use App\Drafts\DraftPlan;
use App\Drafts\DraftStore;
use App\History\ChangeSetReach;
use App\Models\ChangeSet;
use App\Models\Draft;
use App\Planning\TouchedProjects;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;

/** Named what-ifs over the live plan, one's own and shared ones. */
final class DraftController
{
    private readonly DraftStore $store;

    public function __construct(private readonly Reach $reach, private readonly ChangeSetReach $sets)
    {
        $this->store = new DraftStore($reach);
    }

    public function index(): JsonResponse
    {
        $drafts = Draft::query()->with('user')->where('user_id', $this->reach->user->id)->orWhere('shared', true)->orderBy('name')->get();

        return new JsonResponse(['drafts' => $drafts->map($this->shown(...))->all()]);
    }

    public function create(Request $request): JsonResponse
    {
        /** @var array{name: string, shared?: bool} $input */
        $input = $request->validate(['name' => 'required|string|max:120', 'shared' => 'boolean']);
        $draft = Draft::query()->create(['uid' => (string) Str::ulid(), 'user_id' => $this->reach->user->id, 'name' => $input['name'],
            'shared' => $input['shared'] ?? false, 'steps' => [], 'undone' => [], 'changed_at' => now()]);

        return new JsonResponse($this->shown($draft->refresh()), 201);
    }

    public function show(string $uid): JsonResponse
    {
        return new JsonResponse($this->shown($this->store->find($uid)));
    }

    public function update(Request $request, string $uid): JsonResponse
    {
        $draft = $this->store->own($uid);
        /** @var array{name?: string, shared?: bool} $input */
        $input = $request->validate(['name' => 'string|min:1|max:120', 'shared' => 'boolean']);
        $draft->update($input);

        return new JsonResponse($this->shown($draft->refresh()));
    }

    public function delete(string $uid): Response
    {
        $this->store->own($uid)->delete();

        return new Response(status: 204);
    }

    /** Projects as the draft has them, its steps, and what differs from the live plan. */
    public function board(Request $request, string $uid): JsonResponse
    {
        $steps = $request->query('steps');

        return new JsonResponse($this->projected($request, $this->store->find($uid), is_string($steps) ? explode(',', $steps) : null));
    }

    public function undo(Request $request, string $uid): JsonResponse
    {
        $this->store->turn($uid, true);

        return $this->board($request, $uid);
    }

    public function redo(Request $request, string $uid): JsonResponse
    {
        $this->store->turn($uid, false);

        return $this->board($request, $uid);
    }

    public function rebase(Request $request, string $uid): JsonResponse
    {
        /** @var array{keep: string} $input */
        $input = $request->validate(['keep' => ['required', Rule::in(['mine', 'theirs'])]]);
        $settled = $this->store->rebase($uid, $input['keep'] === 'mine');

        return new JsonResponse($this->projected($request, $this->store->find($uid)) + ['settled' => $settled]);
    }

    public function propose(Request $request, string $uid): JsonResponse
    {
        /** @var array{steps?: list<string>|null} $input */
        $input = $request->validate(['steps' => 'nullable|array|min:1', 'steps.*' => ['string', 'regex:'.ChangeSet::UID]]);

        return new JsonResponse(['changeSet' => $this->store->propose($uid, $input['steps'] ?? null)->uid], 201);
    }

    /**
     * @param  list<string>|null  $steps  uids of those that count; null for all
     * @return array<string, mixed>
     */
    private function projected(Request $request, Draft $draft, ?array $steps = null): array
    {
        $ids = $this->reach->projectsByKey(array_values(array_filter(explode(',', (string) $request->query('projects')))));
        $plan = DraftPlan::of($draft->operations($steps), [], $ids, null);

        return ['draft' => $this->shown($draft), 'board' => DraftBoard::of($plan, $ids, $this->reach),
            'comparison' => DraftBoard::comparison($plan, $this->reach)];
    }

    /** @return array<string, mixed> */
    private function shown(Draft $draft): array
    {
        $touched = TouchedProjects::of($draft->operations());
        $keys = $this->reach->limit(DB::table('projects'))->whereIn('id', $touched)->orderBy('key')->pluck('key')->all();
        $whole = ! $this->sets->hides($draft->operations()); // a headline may name what is out of reach
        $told = static fn (array $step): array => ['uid' => $step['uid'], 'headline' => $whole ? $step['headline'] : '',
            'author' => $step['author']];

        return ['uid' => $draft->uid, 'name' => $draft->name, 'author' => $draft->user?->name, 'shared' => $draft->shared,
            'own' => $draft->user_id === $this->reach->user->id, 'changed' => $draft->changed_at->toIso8601String(), 'projects' => $keys,
            'steps' => array_map($told, $draft->steps), 'undone' => count($draft->undone), 'revision' => $draft->revision];
    }
}

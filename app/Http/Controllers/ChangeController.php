<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Drafts\ChangeAnswer;
use App\Drafts\ProposalView;
use App\Exchange\ImportPreview;
use App\History\ChangeSetReach;
use App\Jobs\Work;
use App\Models\ChangeSet;
use App\Planning\ChangeRequest;
use App\Planning\Decided;
use App\Planning\Outcome;
use App\Planning\Planning;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;

/** Change sets: made, tried, undone, and proposals decided. */
final class ChangeController
{
    private const MOST_OPERATIONS = 20_000;

    public function __construct(private readonly Reach $reach, private readonly Planning $planning, private readonly ChangeSetReach $sets)
    {
    }

    /**
     * The latest change sets of visible projects and of the enterprise; with `state=proposed` the open proposals that the user may
     * decide.
     */
    public function index(Request $request): JsonResponse
    {
        $proposed = $request->query('state') === 'proposed';
        $list = ChangeSet::query()->with('author')->where('state', $proposed ? '=' : '!=', 'proposed')
            ->when(! $proposed, fn ($q) => $q->whereIn('id', $this->sets->touching($this->sets->visible())))->latest('id')->limit(100)
            ->get(ChangeSetReach::LISTED);
        if ($proposed) {
            $list = $list->filter(fn (ChangeSet $c): bool => $this->sets->mayDecide($c))->values();
        }
        $hidden = $this->sets->touchingHidden($list->modelKeys());

        return new JsonResponse(['changes' => $list->map(fn (ChangeSet $c): array => ChangeSetReach::listed($c,
            isset($hidden[$c->id]) || ($proposed && $this->sets->hidesOwn($c))))->all()]);
    }

    /** One change set: what became of a request whose answer was lost. */
    public function show(ChangeSet $changeSet): JsonResponse
    {
        $this->sets->seen($changeSet);
        $isOwn = $changeSet->author_id === $this->reach->user->id;
        $hidden = $isOwn ? $this->sets->hidesOwn($changeSet) : $this->sets->touchingHidden([$changeSet->id]) !== [];
        $decided = $changeSet->items === null ? [] : ['decidedProjects' => $changeSet->proposal()->decidedProjects()];

        return new JsonResponse(ChangeSetReach::listed($changeSet, $hidden) + $decided);
    }

    public function create(Request $request): JsonResponse
    {
        /** @var array{revisions?: array<string, int>, reason?: string|null, changeSet?: string|null, step?: string|null} $input */
        $input = $request->validate([
            'operations' => 'required|array|min:1|max:'.self::MOST_OPERATIONS,
            'revisions' => 'array',
            'revisions.*' => 'integer|min:0',
            'dryRun' => 'boolean',
            'reason' => 'nullable|string|max:500',
            'changeSet' => ['nullable', 'string', 'regex:'.ChangeSet::UID],
            'step' => ['nullable', 'string', 'regex:'.ChangeSet::UID],
        ]);
        $operations = [];
        foreach (array_values($request->array('operations')) as $position => $data) {
            if (! is_array($data)) {
                throw new InvalidOperation($position, null, 'must be an object');
            }
            $operations[] = Operation::fromArray($data, $position);
        }
        $wish = new ChangeRequest($operations, array_map(intval(...), $input['revisions'] ?? []), reason: $input['reason'] ?? '',
            uid: $input['changeSet'] ?? null, step: $input['step'] ?? null,
            typed: true);

        return $this->answer($request, $request->boolean('dryRun') ? $this->planning->dryRun($wish) : $this->planning->commit($wish));
    }

    public function undo(Request $request, ChangeSet $changeSet): JsonResponse
    {
        $this->sets->decidable($changeSet);

        return $this->answer($request, $this->planning->undo($changeSet, $this->uid($request)));
    }

    public function apply(Request $request, ChangeSet $changeSet): JsonResponse
    {
        $this->sets->decidable($changeSet);
        if ($changeSet->items !== null) {
            return $this->carryOut($request, $changeSet, $changeSet->proposal()->open(), []); // what is left of it
        }
        if ($changeSet->operation_count > config()->integer('reihe.inline_operations')) {
            return new JsonResponse(Work::start($this->reach->user, 'apply', $changeSet->reason, ['changeSet' => $changeSet->uid])
                ->shown(), 202);
        }

        return $this->answer($request, $this->planning
            ->commit(new ChangeRequest($changeSet->operationList(), source: $changeSet->source, proposal: $changeSet)));
    }

    /** What was said of the file that a proposal comes from, to who brought it: it may name more than what is touched. */
    public function preview(ChangeSet $changeSet): JsonResponse
    {
        $this->sets->decidable($changeSet);

        return new JsonResponse(['preview' => $changeSet->author_id === $this->reach->user->id && ! $this->sets->hidesOwn($changeSet)
            ? ImportPreview::again($changeSet, $this->reach) : null]);
    }

    /** What is left of a proposal, or items of it, on a board as it would be: nothing is written. */
    public function board(Request $request, ChangeSet $changeSet, ProposalView $view): JsonResponse
    {
        $this->sets->decidable($changeSet);
        if ($changeSet->state !== 'proposed') {
            throw new Decided($changeSet);
        }
        $items = $request->query('items');
        if ($items !== null && (! is_string($items) || preg_match('/^(\d{1,6}(,\d{1,6})*)?$/D', $items) !== 1)) {
            throw ValidationException::withMessages(['items' => 'Must be positions with commas between.']);
        }

        return new JsonResponse($view->of($changeSet, $items === null ? null
            : array_map(intval(...), $items === '' ? [] : explode(',', $items))));
    }

    /** Items of a proposal, by position or by the projects they make, accepted or rejected; the rest stays open. */
    public function decide(Request $request, ChangeSet $changeSet): JsonResponse
    {
        $this->sets->decidable($changeSet);
        /** @var array{accept?: list<int>, reject?: list<int>, projects?: list<string>} $input */
        $input = $request->validate(['accept' => 'array|max:'.self::MOST_OPERATIONS, 'accept.*' => 'integer|min:0',
            'reject' => 'array|max:'.self::MOST_OPERATIONS, 'reject.*' => 'integer|min:0',
            'projects' => 'array|max:2000', 'projects.*' => ['string', 'regex:'.ChangeSet::UID]]);
        $accept = [...$input['accept'] ?? [], ...(isset($input['projects']) ? $changeSet->proposal()->inProjects($input['projects']) : [])];

        return $this->carryOut($request, $changeSet, $accept, $input['reject'] ?? []);
    }

    /**
     * @param  list<int>  $accept
     * @param  list<int>  $reject
     */
    private function carryOut(Request $request, ChangeSet $changeSet, array $accept, array $reject): JsonResponse
    {
        if (count($accept) > config()->integer('reihe.inline_operations')) {
            $input = ['changeSet' => $changeSet->uid, 'accept' => $accept, 'reject' => $reject];

            return new JsonResponse(Work::start($this->reach->user, 'apply', $changeSet->reason, $input)->shown(), 202);
        }
        $outcome = $this->planning->decide($changeSet, $accept, $reject);

        return $outcome === null ? new JsonResponse(ChangeSetReach::listed($changeSet->refresh(), false))
            : $this->answer($request, $outcome);
    }

    public function reject(ChangeSet $changeSet): JsonResponse
    {
        $this->sets->decidable($changeSet);
        $this->planning->reject($changeSet);

        return new JsonResponse(['uid' => $changeSet->uid, 'state' => $changeSet->refresh()->state]);
    }

    private function uid(Request $request): ?string
    {
        /** @var array{changeSet?: string|null} $input */
        $input = $request->validate(['changeSet' => ['nullable', 'string', 'regex:'.ChangeSet::UID]]);

        return $input['changeSet'] ?? null;
    }

    private function answer(Request $request, Outcome $outcome): JsonResponse
    {
        /** @var array{revisions?: array<string, int>} $input */
        $input = $request->validate(['revisions' => 'array', 'revisions.*' => 'integer|min:0']);

        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->query('board'),
            array_map(intval(...), $input['revisions'] ?? [])));
    }
}

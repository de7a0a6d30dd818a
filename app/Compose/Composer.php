<?php

declare(strict_types=1);

namespace App\Compose;

use App\Access\Reach;
use App\Drafts\ChangeAnswer;
use App\Models\ChangeSet;
use App\Planning\ChangeRequest;
use App\Planning\Outcome;
use App\Planning\Planning;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Str;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Plan;

/** Change sets that the server puts together from a wish: tried (`dryRun`) or carried out, like any other. */
final readonly class Composer
{
    public function __construct(private Reach $reach, private Planning $planning)
    {
    }

    /** @param  list<int>  $projects  ids */
    public function plan(array $projects): Plan
    {
        return $this->planning->plan($projects);
    }

    /** @param  list<Operation>  $operations */
    public function carryOut(Request $request, array $operations, string $reason): Outcome
    {
        /** @var array{changeSet?: string|null, reason?: string|null} $input */
        $input = $request->validate(['dryRun' => 'boolean', 'reason' => 'nullable|string|max:500',
            'changeSet' => ['nullable', 'string', 'regex:'.ChangeSet::UID]]);
        $wish = new ChangeRequest($operations, reason: $input['reason'] ?? mb_substr($reason, 0, 500), uid: $input['changeSet'] ?? null);

        return $request->boolean('dryRun') || $operations === [] ? $this->planning->dryRun($wish) : $this->planning->commit($wish);
    }

    /** @param  array<string, mixed>  $more */
    public function answer(Request $request, Outcome $outcome, array $more = []): JsonResponse
    {
        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->query('board'))
            + ['operations' => count($outcome->operations)] + $more);
    }

    /** What uids of new objects follow from: the same for the same change set, so that it can be sent again. */
    public static function stem(Request $request): string
    {
        return is_string($request->input('changeSet')) ? $request->string('changeSet')->value() : (string) Str::ulid();
    }
}

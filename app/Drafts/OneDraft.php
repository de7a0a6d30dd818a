<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Access\Reach;
use App\Planning\Aside;
use App\Planning\ChangeRequest;
use App\Planning\Outcome;
use App\Planning\TouchedProjects;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Resource\Keeping;
use Reihe\Core\Schedule\Schedule;

/** A draft that takes what is changed while it is open. */
final readonly class OneDraft implements Aside
{
    /** @param  list<int>  $board  ids of the projects on its board */
    public function __construct(private Reach $reach, private string $uid, private array $board)
    {
    }

    public function take(ChangeRequest $request, bool $write): Outcome
    {
        if ($request->undoes !== null || $request->proposal !== null) {
            throw new InvalidOperation(0, null, 'belongs to the live plan; leave the draft first');
        }
        $store = new DraftStore($this->reach);
        $keeping = $request->typed && Keeping::concerns($request->operations)
            ? Keeping::along($this->schedule(TouchedProjects::of($request->operations))->plan, $request->operations) : null;
        $operations = [...$request->operations, ...$keeping->operations ?? []];

        return new DraftOutcome($write ? $store->add($this->uid, $operations, $request->reason, $request->uid, $this->board)
            : DraftPlan::of($store->find($this->uid)->operations(), $operations, $this->board, $this->reach), $keeping->kept ?? []);
    }

    public function schedule(array $projects): Schedule
    {
        return DraftPlan::of((new DraftStore($this->reach))->find($this->uid)->operations(), [],
            array_values(array_unique([...$projects, ...$this->board])), null)->after;
    }
}

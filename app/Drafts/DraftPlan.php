<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Access\Reach;
use App\Planning\ActivityNames;
use App\Planning\Connected;
use App\Planning\OperationAccess;
use App\Planning\ProjectColours;
use App\Planning\Stamps;
use App\Planning\Uniqueness;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Clash;
use Reihe\Core\Change\Conflict;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Ripple;
use Reihe\Core\Plan\Role;
use Reihe\Core\Schedule\Schedule;

/** What a draft makes of the live plan, calculated in memory and never written to it. */
final readonly class DraftPlan
{
    /**
     * @param  Schedule  $live  of what it touches, as it is
     * @param  Schedule  $before  as the draft had it before what was added
     * @param  Schedule  $after  as the draft has it
     * @param  list<Operation>  $added  as applied
     * @param  array<string, int>  $known  project uid => revision of the live plan
     */
    private function __construct(public Schedule $live, public Schedule $before, public Schedule $after, public array $added,
        public array $known)
    {
    }

    /**
     * @param  list<Operation>  $draft  what it holds
     * @param  list<Operation>  $more  what is to be added to it
     * @param  list<int>  $show  ids of projects that are wanted as objects besides
     * @param  Reach|null  $as  who adds: everything in it must be theirs to plan; null where nothing is added
     *
     * @throws \Reihe\Core\Change\Clash where the live plan went on under it
     */
    public static function of(array $draft, array $more, array $show, ?Reach $as): self
    {
        $all = [...$draft, ...$more];
        $connected = Connected::touchedBy($all, $show);
        if ($as !== null) {
            (new OperationAccess($as, $connected->plan, $connected->ids, Role::Planner, false, false))->check($all);
            $more = ProjectColours::assign(Stamps::assign($more, $as->user, false));
            Uniqueness::checkUids($more, $connected->ids);
        }
        try {
            [$before] = self::apply($connected->schedule, $draft);
        } catch (InvalidOperation $e) { // what it is about is gone, or another way
            $o = $draft[$e->position] ?? throw $e;
            throw new Clash([new Conflict($e->position, $o->kind, $o->uid, $connected->plan->callName($o->kind, $o->uid), null, null, null,
                null, $connected->plan->homesOf($o->kind, $o->uid))]);
        }
        [$after, $added] = self::apply($before, $more);

        return new self($connected->schedule, $before, $after, $added, $connected->revisions);
    }

    /**
     * Is everything in a draft theirs to plan?
     *
     * @param  list<Operation>  $operations
     *
     * @throws \Illuminate\Auth\Access\AuthorizationException|\Reihe\Core\Change\InvalidOperation
     */
    public static function check(array $operations, Reach $reach): void
    {
        $connected = Connected::touchedBy($operations);
        (new OperationAccess($reach, $connected->plan, $connected->ids, Role::Planner, false, false))->check($operations);
    }

    /**
     * @param  list<Operation>  $operations
     * @return array{Schedule, list<Operation>} with the operations as applied
     */
    private static function apply(Schedule $schedule, array $operations): array
    {
        if ($operations === []) {
            return [$schedule, []];
        }
        $applied = ChangeSet::apply($schedule->plan, $operations);
        $touched = array_map(strval(...), array_keys($schedule->plan->projects + $applied->plan->projects));
        $after = Operation::shapeDates($operations) ? Schedule::of($applied->plan)
            : $schedule->after($applied->plan, $touched, new ActivityNames($applied->plan));

        return [$after, $applied->operations];
    }

    /** What was added did to dates in the draft. */
    public function ripple(): Ripple
    {
        return Ripple::between($this->before, $this->after, new ActivityNames($this->after->plan));
    }

    /** How the draft differs from the live plan. */
    public function comparison(): Ripple
    {
        return Ripple::between($this->live, $this->after, new ActivityNames($this->after->plan));
    }
}

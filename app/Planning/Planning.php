<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;
use App\Database\Enterprise;
use App\Database\Rows;
use App\Models\ChangeSet as StoredChangeSet;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Ripple;
use Reihe\Core\Change\Verb;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Resource\Keeping;
use Reihe\Core\Schedule\Schedule;

/**
 * The only door to plan data for writing: apply operations to the connected part of the network, schedule it, and
 * either answer with the ripple (dry run) or write data, results and the change set in one transaction.
 *
 * Calculated outside any lock. Then the enterprise's row is locked (shared, or for itself when calendars change) and the
 * projects of the connected part in id order; when their revisions are those that were calculated from, what differs is
 * written, else everything is done again. So are deadlocks and unique keys taken at the same moment.
 */
final class Planning
{
    private const ATTEMPTS = 10;

    /** MariaDB: lock wait timeout, deadlock, record changed since read, duplicate key, foreign key (both ways), savepoint gone */
    private const COLLISIONS = [1205, 1213, 1020, 1062, 1452, 1451, 1305];

    /** @param  Aside|null  $aside  takes what is committed instead of the plan */
    public function __construct(private readonly User $user, private readonly ?Aside $aside = null)
    {
    }

    /**
     * What a change would do; nothing is written.
     *
     * @param  list<int>  $show  ids of projects that are wanted in its schedule besides those it touches
     */
    public function dryRun(ChangeRequest $request, array $show = []): Outcome
    {
        if ($this->aside !== null) {
            return $this->aside->take($request, false);
        }

        return $this->calculate(Connected::touchedBy($request->operations, $show), $request)[0];
    }

    public function commit(ChangeRequest $request): Outcome
    {
        if ($this->aside !== null) {
            return $this->aside->take($request, true);
        }
        for ($attempt = 1; ; $attempt++) {
            $turn = Turn::take(PlanStore::connected(TouchedProjects::of($request->operations)));
            $part = $before = null;
            try {
                $outcome = $this->earlier($request) ?? $this->attempt($request, $part, $before);
                if ($outcome !== null) {
                    return $outcome;
                }
            } catch (CoreException $e) {
                // somebody was quicker with the very same: their answer is the answer, and no complaint about what they left
                $earlier = $this->earlier($request);
                if ($earlier !== null) {
                    return $earlier;
                }
                $this->checkStates($request, false);
                throw $e;
            } catch (\PDOException $e) { // also from the commit itself
                if (! in_array($e->errorInfo[1] ?? null, self::COLLISIONS, true)) {
                    throw $e;
                }
                $collision = $e;
            } finally {
                $part === null ? $turn->end() : $turn->endAfter(static fn () => KeptParts::keep($part, $before));
            }
            if ($attempt === self::ATTEMPTS) {
                throw new Busy($collision ?? null);
            }
            usleep(random_int(1, 30) * 1000 * $attempt);
        }
    }

    /**
     * What a change is put together from: projects as they are, or as the draft has them that takes it.
     *
     * @param  list<int>  $projects  ids
     */
    public function plan(array $projects): Plan
    {
        return $this->aside === null ? PlanStore::load($projects)[0] : $this->schedule($projects)->plan;
    }

    /**
     * The same with its dates.
     *
     * @param  list<int>  $projects  ids
     */
    public function schedule(array $projects): Schedule
    {
        return $this->aside?->schedule($projects) ?? Connected::with($projects)->schedule;
    }

    /** Takes an applied change set back, as a change set of its own. Undoing that one is a redo. */
    public function undo(StoredChangeSet $changeSet, ?string $uid = null): Outcome
    {
        /** @var array<string, int> $seen */
        $seen = DB::table('change_set_projects')->where('change_set_id', $changeSet->id)->where('project_uid', '!=', News::ENTERPRISE)
            ->pluck('revision', 'project_uid')->all();

        return $this->commit(new ChangeRequest(ChangeSet::inverse($changeSet->operationList()), $seen, 'undo', $changeSet->reason, $uid,
            undoes: $changeSet));
    }

    /**
     * Calculates a connected part again and writes what differs, after an update that brought new results.
     *
     * @param  list<int>  $projects  ids of all projects of the part
     * @return int how many results were written
     */
    public static function recalculate(array $projects): int
    {
        return DB::transaction(static function () use ($projects): int {
            Enterprise::share();
            /** @var array<string, int> $revisions */
            $revisions = DB::table('projects')->whereIn('id', $projects)->orderBy('id')->lockForUpdate()->pluck('revision', 'uid')->all();
            [$plan, $ids] = PlanStore::load($projects);
            $difference = Difference::from(Results::load(Rows::in($projects)), Schedule::of($plan));
            $difference->write($ids, Touched::revise([], $difference->touchedProjects(), $revisions));

            return $difference->count();
        });
    }

    /**
     * Accepts items of a proposal, with what they need, and rejects others, with what needs them. What is accepted becomes a
     * change set of its own; the proposal stays open while an item of it is.
     *
     * @param  list<int>  $accept  positions
     * @param  list<int>  $reject
     * @param  \Closure(string, int, int): void|null  $tick
     * @return Outcome|null null when nothing was accepted
     */
    public function decide(StoredChangeSet $proposal, array $accept, array $reject = [], ?\Closure $tick = null): ?Outcome
    {
        [$accepted, $after] = $proposal->proposal()->reject($reject)->accept($accept);
        $operations = array_map(static fn (int $at): Operation => $after->operations[$at], $accepted);
        if ($operations !== []) {
            return $this->commit(new ChangeRequest($operations, source: $proposal->source, reason: $proposal->reason, proposal: $proposal,
                items: $after->letters(), tick: $tick));
        }
        $this->settle($proposal, Decisions::of($after->letters(), $this->user), $proposal->items);

        return null;
    }

    /**
     * Writes down what became of a proposal that nobody decided meanwhile.
     *
     * @param  array<string, mixed>  $values
     *
     * @throws Decided
     */
    private function settle(StoredChangeSet $proposal, array $values, ?string $items): void
    {
        $done = DB::transaction(static fn (): int => StoredChangeSet::query()->whereKey($proposal->id)->where('state', 'proposed')
            ->where('items', $items)->update($values), self::ATTEMPTS);
        if ($done === 0) {
            throw new Decided(StoredChangeSet::query()->findOrFail($proposal->id, ['id', 'state']));
        }
    }

    /** Says no to a proposal, or to what is left of one that was decided in part. */
    public function reject(StoredChangeSet $proposal): void
    {
        if ($proposal->items !== null) {
            $this->decide($proposal, [], $proposal->proposal()->open());

            return;
        }
        $this->settle($proposal, ['state' => 'rejected', 'preview' => null, 'decided_at' => now(), 'decided_by' => $this->user->id], null);
    }

    /**
     * Calculates, then locks and writes; null when somebody was quicker and it must be done again.
     *
     * @param  Part|null  $part  the part as it was written, if it was
     * @param  Part|null  $before  the same before
     *
     * @param-out Part $before
     */
    private function attempt(ChangeRequest $request, ?Part &$part, ?Part &$before): ?Outcome
    {
        $this->checkStates($request, false);
        $tick = $request->tick ?? static fn (): null => null;
        $tick('calculating', 0, 0);
        $connected = Connected::touchedBy($request->operations);
        $before = $connected->part;
        [$outcome, $after] = $this->calculate($connected, $request);
        if ($outcome->operations === [] && $request->proposal === null && $request->undoes === null) {
            return $outcome; // a proposal without operations may bring baselines, and what its source calls things
        }
        $difference = Difference::between($connected->part, $after, array_map(strval(...), array_keys($after->plan->projects)));
        $alone = Operation::touchEnterprise($request->operations);
        [$written, $part] = Rows::whole(function () use ($connected, $request, $outcome, $after, $difference, $alone): array {
            $enterprise = $alone ? Enterprise::lock() : Enterprise::share();
            $now = DB::table('projects')->whereIn('id', array_values($connected->part->ids))->orderBy('id')->lockForUpdate()
                ->get(['uid', 'revision', 'input_revision']);
            $earlier = $this->earlier($request);
            if ($earlier !== null || $now->pluck('input_revision', 'uid')->all() !== $connected->part->inputs
                || $now->pluck('revision', 'uid')->all() !== $connected->revisions || $enterprise !== $connected->enterprise) {
                return [$earlier, null];
            }
            // who uses what the enterprise has, as it is now that nobody can begin to
            if ($alone && array_diff(TouchedProjects::of($request->operations), array_values($connected->part->ids)) !== []) {
                return [null, null];
            }
            $this->checkStates($request, true);
            if ($connected->part->ids !== []) {
                // rows of other projects may be all that two database nodes have in common; this one both write
                DB::table('projects')->where('id', min($connected->part->ids))->increment('turns');
            }

            return $this->write($connected, $request, $outcome, $after, $difference);
        });

        return $written;
    }

    /** What is to be undone must be applied, what is to be applied must be proposed. */
    private function checkStates(ChangeRequest $request, bool $lock): void
    {
        foreach (array_filter([$request->undoes, $request->proposal]) as $decided) {
            $state = StoredChangeSet::query()->when($lock, static fn ($q) => $q->lockForUpdate())
                ->findOrFail($decided->id, ['id', 'state', 'items']);
            // what was applied in parts is undone in parts
            $stands = $decided === $request->undoes ? $state->state === 'applied' && $state->items === null : $state->state === 'proposed'
                && $state->items === $decided->items;
            if (! $stands) {
                throw new Decided($state);
            }
        }
    }

    /** @return array{Outcome, Schedule} what it does, and everything as it is after the operations */
    private function calculate(Connected $connected, ChangeRequest $request): array
    {
        $access = new OperationAccess(Reach::of($this->user), $connected->plan, $connected->ids, $request->role, $request->undoes !== null,
            in_array($request->source, ['import', 'demo'], true));
        $access->check($request->operations);
        $keeping = $request->typed ? Keeping::along($connected->plan, $request->operations) : null;
        $wanted = [...$request->operations, ...$keeping->operations ?? []];
        $operations = ProjectColours::assign($request->undoes === null
            ? Stamps::assign($wanted, $this->user, $request->source === 'import' || $request->source === 'demo') : $wanted);
        Uniqueness::checkUids($operations, $connected->ids);
        $applied = ChangeSet::apply($connected->plan, $operations,
            News::objects(array_intersect_key($request->revisions, $connected->revisions)));
        $access->checkAlong($applied->operations);
        Uniqueness::checkKeys($operations, $connected->plan);
        $names = new ActivityNames($applied->plan);
        $before = $connected->schedule;
        $touched = array_map(strval(...), array_keys($connected->plan->projects + $applied->plan->projects));
        $after = $connected->whole ? Schedule::of($applied->plan,
            Operation::shapeDates($operations) ? [] : $before->network->axesByCalendar())
            : $before->after($applied->plan, $touched, $names);
        $ripple = Ripple::between($before, $after, $names);

        return [new Outcome(null, $applied->operations, $ripple->toArray(), $connected->revisions, $connected->revisions, $after,
            $ripple->moves, $keeping->kept ?? []), $after];
    }

    /** @return array{Outcome, Part} */
    private function write(Connected $connected, ChangeRequest $request, Outcome $outcome, Schedule $after, Difference $difference): array
    {
        [$before, $plan, $ids, $known] = [$connected->plan, $after->plan, $connected->ids, $connected->revisions];
        $done = 0;
        $all = $difference->count() + count(array_filter($outcome->operations,
            static fn (Operation $o): bool => $o->verb === Verb::Create));
        $written = $request->tick === null ? null : static function (int $rows) use (&$done, $all, $request): void {
            ($request->tick)('writing', $done += $rows, max($done, $all));
        };
        $along = Touched::along($outcome->operations, $plan);
        (new PlanWriter($before, $plan, $ids, $written))->write($outcome->operations, $along);
        $own = [];
        foreach ([...array_map(static fn (Operation $o): array => [$o->kind, $o->uid], $outcome->operations), ...$along] as [$kind, $uid]) {
            $own += array_fill_keys(Touched::owners($kind, $uid, $before, $plan), true);
        }
        $shapes = Operation::shapeDates($outcome->operations);
        $revisions = Touched::revise($own, $difference->touchedProjects(), $known, $shapes);
        $many = $difference->count() > Ids::$many;
        if ($many && $connected->part->rows !== []) {
            $ids->know(EntityKind::Activity, $connected->part->network->uid, $connected->part->rows['activity']);
            $ids->know(EntityKind::Wbs, $connected->part->network->wbsUid, $connected->part->rows['wbs']);
        }
        $difference->write($ids, $revisions, $written);

        $isPart = $request->proposal !== null && $request->items !== null;
        $stored = $request->proposal !== null
            && ! $isPart ? $request->proposal
            : new StoredChangeSet(['uid' => $request->uid ?? (string) Str::ulid(), 'author_id' => $this->user->id,
                'source' => $request->source, 'reason' => $request->reason, 'created_at' => now(),
                'part_of_id' => $request->proposal?->id, 'step' => $request->step]);
        $stored->fill(['state' => 'applied', 'preview' => null, 'operations' => $outcome->operations,
            'operation_count' => count($outcome->operations),
            'ripple' => $outcome->ripple, 'undoes_id' => $request->undoes?->id,
            'applied_at' => now()->format('Y-m-d H:i:s.u'), 'decided_at' => now(), 'decided_by' => $this->user->id])
            ->save();
        Rows::insert('change_set_projects', array_map(static fn (string $uid): array => ['change_set_id' => $stored->id,
            'project_uid' => $uid, 'revision' => $revisions[$uid]],
            array_map(strval(...), array_keys($own))));
        app(Followers::class)->tell(new Committed($stored->id, $this->user, $request, $outcome->operations, $before, $plan, $revisions,
            $along,
            $outcome->moves, $isPart));

        $there = [];
        foreach ($after->network->projectUid as $uid) {
            $there[$uid] = $connected->part->ids[$uid] ?? $ids->id(EntityKind::Project, $uid);
        }
        asort($there);
        $inputs = [];
        foreach (array_keys($there) as $uid) {
            $inputs[$uid] = ($connected->part->inputs[$uid] ?? 0) + (isset($own[$uid]) ? 1 : 0);
        }
        $part = Part::of($there, $inputs, $connected->part->enterprise + ($shapes ? 1 : 0), $after, $difference->rolledUp,
            $connected->part->rowsAfter($outcome->operations, $after->network, $ids, $many));

        return [new Outcome($stored->uid, $outcome->operations, $outcome->ripple, array_diff_key($revisions, [News::ENTERPRISE => 0]),
            $known, $after, [], $outcome->kept), $part];
    }

    /** What an earlier request with the same uid did; null when there was none. */
    private function earlier(ChangeRequest $request): ?Outcome
    {
        $stored = $request->uid === null ? null : StoredChangeSet::query()->where('uid', $request->uid)->first();
        if ($stored === null || $stored->id === $request->proposal?->id) {
            return null;
        }
        if ($stored->author_id !== $this->user->id) {
            throw new InvalidOperation(0, 'changeSet', 'is the uid of another change set');
        }
        /** @var array<string, int> $revisions */
        $revisions = DB::table('change_set_projects')->where('change_set_id', $stored->id)->where('project_uid', '!=', News::ENTERPRISE)
            ->pluck('revision', 'project_uid')->all();

        return new Outcome($stored->uid, $stored->operationList(), $stored->ripple, $revisions,
            array_map(static fn (int $r): int => $r - 1, $revisions), null);
    }
}

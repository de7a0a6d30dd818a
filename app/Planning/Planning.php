<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;
use App\Models\ChangeSet as StoredChangeSet;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Ripple;
use Reihe\Core\Change\Snapshot;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Schedule\Schedule;

/**
 * The only door to plan data for writing: apply operations to the connected part of the network, schedule it, and
 * either answer with the ripple (dry run) or write data, results and the change set in one transaction.
 *
 * Projects of the connected part are locked in id order; a part that grew while waiting for the lock is tried again.
 */
final class Planning
{
    private const ATTEMPTS = 5;

    public function __construct(private readonly User $user)
    {
    }

    /**
     * @param  list<Operation>  $operations
     * @param  array<string, int>  $revisions  project uid => revision that the author saw; others are not checked for clashes
     */
    public function dryRun(array $operations, array $revisions = []): Outcome
    {
        return DB::transaction(fn (): Outcome => $this->calculate($this->load($operations), $operations, $revisions)[0]);
    }

    /**
     * @param  list<Operation>  $operations
     * @param  array<string, int>  $revisions
     * @param  string  $source  edit, import, undo or demo
     */
    public function commit(array $operations, array $revisions = [], string $source = 'edit', string $reason = '', ?StoredChangeSet $undoes = null, ?StoredChangeSet $proposal = null): Outcome
    {
        return $this->locked($operations, function (LoadedPlan $loaded) use ($operations, $revisions, $source, $reason, $undoes, $proposal): Outcome {
            [$outcome, $rolled] = $this->calculate($loaded, $operations, $revisions);
            if ($outcome->operations === []) {
                return $outcome;
            }
            $writer = new PlanWriter($outcome->schedule->plan, $loaded->ids);
            try {
                $writer->operations($outcome->operations);
            } catch (InvalidField $e) {
                throw new InvalidOperation(0, $e->field, $e->why);
            }
            $changed = $writer->results($outcome->schedule, $rolled->results);
            $revised = $this->revise($outcome, $loaded, $changed);
            $stored = $proposal ?? new StoredChangeSet(['uid' => (string) Str::ulid(), 'author_id' => $this->user->id, 'source' => $source, 'reason' => $reason, 'created_at' => now()]);
            $stored->fill(['state' => 'applied', 'operations' => array_map(static fn (Operation $o): array => $o->toArray(), $outcome->operations),
                'ripple' => $outcome->ripple->toArray(), 'undoes_id' => $undoes?->id, 'decided_at' => now()])->save();
            DB::table('change_set_projects')->insert(array_map(
                static fn (string $uid, int $revision): array => ['change_set_id' => $stored->id, 'project_uid' => $uid, 'revision' => $revision], array_keys($revised), $revised));
            $undoes?->update(['state' => 'undone', 'decided_at' => now()]);

            return new Outcome($stored->uid, $outcome->operations, $outcome->ripple, $outcome->schedule, $revised, $changed);
        });
    }

    /** Takes an applied change set back, as a change set of its own. Undoing that one is a redo. */
    public function undo(StoredChangeSet $changeSet): Outcome
    {
        return $this->commit(ChangeSet::inverse($changeSet->operationList()), source: 'undo', reason: $changeSet->reason, undoes: $changeSet);
    }

    /**
     * @param  list<Operation>  $operations
     * @param  array<string, int>  $revisions
     * @return array{Outcome, LoadedPlan}
     */
    private function calculate(LoadedPlan $loaded, array $operations, array $revisions): array
    {
        Clashing::check($operations, $revisions, $loaded->revisions, $loaded);
        $applied = ChangeSet::apply($loaded->plan, $operations);
        (new OperationAccess(Reach::of($this->user), $loaded->plan, $applied->plan))->check($applied->operations);
        $this->checkKeys($applied->operations);
        $schedule = Schedule::of($applied->plan);
        $ripple = Ripple::between($loaded->before, Snapshot::of($schedule), $schedule);

        return [new Outcome(null, $applied->operations, $ripple, $schedule, $loaded->revisions), $loaded];
    }

    /**
     * Project keys are unique in the enterprise, also among projects that were not loaded.
     *
     * @param  list<Operation>  $operations
     */
    private function checkKeys(array $operations): void
    {
        foreach ($operations as $position => $operation) {
            if ($operation->kind === EntityKind::Project && isset($operation->after['key'])
                && DB::table('projects')->where('key', $operation->after['key'])->where('uid', '!=', $operation->uid)->exists()) {
                throw new InvalidOperation($position, 'key', 'is taken by another project');
            }
        }
    }

    /** @param  list<Operation>  $operations */
    private function load(array $operations): LoadedPlan
    {
        return PlanStore::load(PlanStore::connected(TouchedProjects::of($operations)));
    }

    /**
     * @param  list<Operation>  $operations
     * @param  callable(LoadedPlan): Outcome  $work
     */
    private function locked(array $operations, callable $work): Outcome
    {
        for ($attempt = 1; ; $attempt++) {
            $projects = PlanStore::connected(TouchedProjects::of($operations));
            $outcome = DB::transaction(static function () use ($projects, $operations, $work): ?Outcome {
                if ($projects !== []) {
                    DB::table('projects')->whereIn('id', $projects)->orderBy('id')->lockForUpdate()->pluck('id');
                }
                $now = PlanStore::connected(TouchedProjects::of($operations));

                return array_diff($now, $projects) === [] ? $work(PlanStore::load($now)) : null;
            }, 3);
            if ($outcome !== null) {
                return $outcome;
            }
            if ($attempt === self::ATTEMPTS) {
                throw new \RuntimeException('the connected projects keep changing, please try again');
            }
        }
    }

    /**
     * A project's revision rises when one of its objects was changed; computed dates alone do not count.
     *
     * @param  array<string, list<string>>  $changed
     * @return array<string, int> project uid => new revision
     */
    private function revise(Outcome $outcome, LoadedPlan $loaded, array $changed): array
    {
        $touched = [];
        foreach ($outcome->operations as $operation) {
            foreach ([$loaded->plan, $outcome->schedule->plan] as $plan) {
                $uid = match ($operation->kind) {
                    EntityKind::Project => isset($plan->projects[$operation->uid]) ? $operation->uid : null,
                    EntityKind::Wbs => ($plan->wbs[$operation->uid] ?? null)?->project,
                    EntityKind::Activity => ($plan->activities[$operation->uid] ?? null)?->project,
                    EntityKind::Link => isset($plan->links[$operation->uid]) ? $plan->projectOf($plan->links[$operation->uid]->to) : null,
                    EntityKind::Calendar => null,
                };
                if ($uid !== null) {
                    $touched[$uid] = ($loaded->revisions[$uid] ?? 0) + 1;
                }
            }
        }
        foreach ($touched as $uid => $revision) {
            DB::table('projects')->where('uid', $uid)->update(['revision' => $revision]);
        }

        return $touched;
    }
}

<?php

declare(strict_types=1);

namespace App\History;

use App\Access\Reach;
use App\Models\ChangeSet;
use App\Planning\News;
use App\Planning\TouchedProjects;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Role;

/** Which change sets a user sees, what of them, and which they may decide and undo. */
final class ChangeSetReach
{
    /** columns that {@see listed()} reads */
    public const LISTED = ['id', 'uid', 'author_id', 'source', 'reason', 'state', 'operation_count', 'created_at'];

    public function __construct(private readonly Reach $reach)
    {
    }

    /**
     * @param  bool  $touchesHidden  something out of reach: the reason may name it
     * @return array<string, mixed>
     */
    public static function listed(ChangeSet $c, bool $touchesHidden): array
    {
        return ['uid' => $c->uid, 'author' => $c->author?->name, 'source' => $c->source, 'reason' => $touchesHidden ? '' : $c->reason,
            'state' => $c->state, 'created' => $c->created_at->toIso8601String(), 'operations' => $c->operation_count];
    }

    /** @throws \Symfony\Component\HttpKernel\Exception\NotFoundHttpException for what the user may not see, as for what is not there */
    public function seen(ChangeSet $changeSet): void
    {
        $isOwn = $changeSet->author_id === $this->reach->user->id;
        abort_if(! $isOwn && ! $this->mayDecide($changeSet)
            && ! $this->touching($this->visible())->where('change_set_id', $changeSet->id)->exists(), 404);
    }

    /** @throws AuthorizationException */
    public function decidable(ChangeSet $changeSet): void
    {
        $this->seen($changeSet);
        if (! $this->mayDecide($changeSet)) {
            throw new AuthorizationException('This change set belongs to somebody else; you need the approver role on all branches it '
                .'touches.');
        }
    }

    /** Its author may, and approvers of all branches that it touches. */
    public function mayDecide(ChangeSet $changeSet): bool
    {
        if ($changeSet->author_id === $this->reach->user->id) {
            return true;
        }
        if ($changeSet->source === 'handover') {
            return $this->takes($changeSet);
        }
        if (! $this->reach->mayAnywhere(Role::Approver)) {
            return false;
        }
        $operations = self::operations($changeSet);
        $branches = DB::table('projects')->whereIn('id', TouchedProjects::of($operations))->distinct()->pluck('branch_id')->all();
        foreach ($operations as $o) {
            $uids = match ($o->kind) {
                EntityKind::Branch => [$o->uid, $o->before['parent'] ?? null, $o->after['parent'] ?? null],
                // also one that is not there yet, or any more
                EntityKind::Project => [$o->before['branch'] ?? null, $o->after['branch'] ?? null],
                default => [],
            };
            array_push($branches, ...DB::table('branches')->whereIn('uid', array_filter($uids, is_string(...)))->pluck('id')->all());
        }
        foreach ($branches as $branch) {
            if (! is_int($branch) || ! $this->reach->may(Role::Approver, $branch)) {
                return false;
            }
        }

        return $branches !== [] || $this->reach->mayAnywhere(Role::Administrator);
    }

    /** @return list<Operation> of one that may have been read without them, as for a list */
    private static function operations(ChangeSet $changeSet): array
    {
        return (isset($changeSet->getAttributes()['operations']) ? $changeSet : ChangeSet::query()->whereKey($changeSet->id)->firstOrFail())
            ->operationList();
    }

    /** An agreement that the giver proposes is decided by those who plan the taker's project. */
    private function takes(ChangeSet $changeSet): bool
    {
        $operations = self::operations($changeSet);
        foreach ($operations as $o) {
            $branch = DB::table('links')->join('projects', 'projects.id', '=', 'links.to_project_id')->where('links.uid', $o->uid)
                ->value('projects.branch_id');
            if (! is_int($branch) || ! $this->reach->may(Role::Planner, $branch)) {
                return false;
            }
        }

        return $operations !== [];
    }

    /** @return list<string> uids of visible projects, and the enterprise for those who may plan */
    public function visible(): array
    {
        return [...($this->reach->mayAnywhere(Role::Planner) ? [News::ENTERPRISE] : []),
            ...array_map(strval(...), array_keys($this->reach->projects()))];
    }

    /** @param  list<string>  $projects */
    public function touching(array $projects): Builder
    {
        return DB::table('change_set_projects')->whereIn('project_uid', $projects)->select('change_set_id');
    }

    /**
     * Are operations about anything out of reach now? Then what was said of them when it was within reach is not said again.
     *
     * @param  list<Operation>  $operations
     */
    public function hides(array $operations): bool
    {
        if ($this->reach->seesAll()) {
            return false;
        }
        if (array_diff(TouchedProjects::of($operations), array_values($this->reach->projects())) !== []) {
            return true;
        }
        $branches = [];
        foreach ($operations as $o) {
            $o->kind !== EntityKind::Branch ?: $branches[] = $o->uid;
            foreach ($o->kind->entry()->references as $reference) {
                if ($reference->to === EntityKind::Branch) {
                    array_push($branches, ...array_filter([$o->before[$reference->field] ?? null, $o->after[$reference->field] ?? null],
                        is_string(...)));
                }
            }
        }
        $branches = array_values(array_filter(array_unique($branches), fn (string $uid): bool => $this->reach->branch($uid) === null));

        return $branches !== [] && DB::table('branches')->whereIn('uid', $branches)->exists();
    }

    /** The same for a change set of the user's own: it is listed whatever became of their roles. */
    public function hidesOwn(ChangeSet $changeSet): bool
    {
        return $changeSet->author_id === $this->reach->user->id && ! $this->reach->seesAll() // the operations may be many
            && $this->hides(self::operations($changeSet));
    }

    /**
     * @param  array<array-key, mixed>  $changeSets  ids
     * @return array<int, true> ids of those that touch projects or branches out of reach, or a branch that is gone
     */
    public function touchingHidden(array $changeSets): array
    {
        $projects = DB::table('change_set_projects')->whereIn('change_set_id', $changeSets)->whereNotIn('project_uid', $this->visible())
            ->pluck('change_set_id')->all();
        $branches = DB::table('plan_changes')->whereIn('change_set_id', $changeSets)->where('kind', EntityKind::Branch->value)
            ->whereNotIn('uid', $this->reach->branchUids())->pluck('change_set_id')->all();

        /** @var list<int> $hidden */
        $hidden = [...$projects, ...($this->reach->seesAll() ? [] : $branches)];

        return array_fill_keys($hidden, true);
    }

    /**
     * Those of the user's own change sets that touch what is there but out of reach by now: what was said of it is not said again.
     *
     * @param  list<string>  $changeSets  uids
     * @return array<string, true>
     */
    public function hiddenNow(array $changeSets): array
    {
        if ($this->reach->seesAll() || $changeSets === []) {
            return [];
        }
        $projects = DB::table('change_sets as s')->whereIn('s.uid', $changeSets)
            ->join('change_set_projects as t', 't.change_set_id', '=', 's.id')->join('projects as p', 'p.uid', '=', 't.project_uid')
            ->whereNotIn('p.id', array_values($this->reach->projects()))->pluck('s.uid')->all();
        $branches = DB::table('change_sets as s')->whereIn('s.uid', $changeSets)
            ->join('plan_changes as c', 'c.change_set_id', '=', 's.id')->where('c.kind', EntityKind::Branch->value)
            ->join('branches as b', 'b.uid', '=', 'c.uid')->whereNotIn('b.id', $this->reach->branches())->pluck('s.uid')->all();

        return array_fill_keys(array_filter([...$projects, ...$branches], is_string(...)), true);
    }
}

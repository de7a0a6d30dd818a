<?php

declare(strict_types=1);

namespace App\History;

use App\Models\ChangeSet;
use App\Models\User;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * A user's way back and forth in a working set, from the change sets as they are stored, so that it survives a reload and is the
 * same on another device. What takes a change set back stands at an odd depth, what does it again at an even one.
 *
 * @phpstan-type Step array{changeSets: list<string>, headline: string}
 */
final class Steps
{
    private const MOST = 50;

    /**
     * Change sets of all projects together, and of each at least, whoever made them, among which they are: what lies further back is
     * undone from the history.
     */
    private const LATEST = [5000, 200];

    /** own change sets that are looked through where no projects are named */
    private const EVERYWHERE = 5000;

    /** own change sets that are looked through for them */
    private const PAGE = 200;

    private const PAGES = 10;

    /**
     * @param  list<string>|null  $projects  uids of the projects that are open; null for all that the user did anywhere
     * @return array{undo: list<Step>, redo: list<Step>} the next one last
     */
    public static function of(User $user, ?array $projects): array
    {
        if ($projects === []) {
            return ['undo' => [], 'redo' => []];
        }
        [$latest, $bound] = self::latest($user, $projects);
        $own = static fn () => ChangeSet::query()->from('change_sets as s')
            ->join(DB::raw("({$latest}) as p"), 'p.id', '=', 's.id')->addBinding($bound, 'join')->where('s.author_id', $user->id)
            ->whereIn('s.source', ['edit', 'progress', 'undo', 'import', 'draft', 'handover'])->whereNull('s.items')
            ->latest('s.applied_at')->latest('s.id');
        // taking back what somebody else did is an edit too; an edit ends what could be done again before it
        $edit = $own()->leftJoin('change_sets as o', 'o.id', '=', 's.undoes_id')->whereIn('s.state', ['applied', 'undone'])
            ->where(static fn ($q) => $q->whereNull('s.undoes_id')->orWhere('o.author_id', '!=', $user->id))
            ->first(['s.id', 's.applied_at']);
        $undo = $redo = [];
        for ($page = 1; $page <= self::PAGES && count($undo) < 2 * self::MOST; $page++) {
            $applied = $own()->where('s.state', 'applied')->forPage($page, self::PAGE)
                ->get(['s.id', 's.uid', 's.reason', 's.undoes_id', 's.step', 's.applied_at']);
            $turned = self::turned($applied, $user);
            foreach ($applied as $changeSet) {
                [$depth, $root] = self::root($changeSet, $turned);
                if ($depth % 2 === 0) {
                    $undo[] = [$changeSet->uid, $root];
                } elseif ($edit === null || [$changeSet->applied_at, $changeSet->id] > [$edit->applied_at, $edit->id]) {
                    $redo[] = [$changeSet->uid, $root];
                }
            }
            if ($applied->count() < self::PAGE) {
                break;
            }
        }

        return ['undo' => self::steps($undo), 'redo' => self::steps($redo)];
    }

    /**
     * @param  non-empty-list<string>|null  $projects
     * @return array{string, list<string|int>} a query for the ids of change sets, and its bindings
     */
    private static function latest(User $user, ?array $projects): array
    {
        if ($projects === null) {
            return ['SELECT id FROM change_sets WHERE author_id = ? ORDER BY id DESC LIMIT '.self::EVERYWHERE, [$user->id]];
        }
        $most = max(self::LATEST[1], intdiv(self::LATEST[0], count($projects)));

        return ['('.implode(') UNION (', array_fill(0, count($projects),
            'SELECT change_set_id AS id FROM change_set_projects WHERE project_uid = ? ORDER BY revision DESC LIMIT '.$most)).')',
            $projects];
    }

    /**
     * What change sets undo, and what that undid, down to the edits: one's own of them.
     *
     * @param  Collection<array-key, ChangeSet>  $changeSets
     * @return array<int, ChangeSet> by id
     */
    private static function turned(Collection $changeSets, User $user): array
    {
        $known = [];
        for ($wanted = $changeSets; ($ids = $wanted->pluck('undoes_id')->filter()->reject(static fn (int $id): bool => isset($known[$id]))
            ->all()) !== [];) {
            $wanted = ChangeSet::query()->where('author_id', $user->id)->whereIn('id', $ids)
                ->get(['id', 'uid', 'reason', 'undoes_id', 'step']);
            foreach ($wanted as $one) {
                $known[$one->id] = $one;
            }
        }

        return $known;
    }

    /**
     * @param  array<int, ChangeSet>  $turned
     * @return array{int, ChangeSet} how often it was turned, and the edit at the bottom
     */
    private static function root(ChangeSet $changeSet, array $turned): array
    {
        for ($depth = 0; isset($turned[$changeSet->undoes_id ?? 0]); $depth++) {
            $changeSet = $turned[$changeSet->undoes_id ?? 0];
        }

        return [$depth, $changeSet];
    }

    /**
     * @param  list<array{string, ChangeSet}>  $changeSets  uid and the edit at the bottom, the latest first
     * @return list<Step> the latest last
     */
    private static function steps(array $changeSets): array
    {
        $steps = [];
        foreach (array_reverse($changeSets) as [$uid, $root]) {
            self::add($steps, $root->step ?? $root->uid, $uid, $root->reason);
        }

        return array_slice(array_values($steps), -self::MOST);
    }

    /** @param  array<string, Step>  $steps */
    private static function add(array &$steps, string $step, string $uid, string $reason): void
    {
        $at = $steps[$step] ?? ['changeSets' => [], 'headline' => $reason];
        unset($steps[$step]); // a step stands where its last change set does
        $steps[$step] = ['changeSets' => [...$at['changeSets'], $uid], 'headline' => $at['headline']];
    }
}

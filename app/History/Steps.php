<?php

declare(strict_types=1);

namespace App\History;

use App\Models\ChangeSet;
use App\Models\User;
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
     * @param  list<string>  $projects  uids of the projects that are open
     * @return array{undo: list<Step>, redo: list<Step>} the next one last
     */
    public static function of(User $user, array $projects): array
    {
        $touching = DB::table('change_set_projects')->whereIn('project_uid', $projects)->select('change_set_id');
        $own = ChangeSet::query()->where('author_id', $user->id)
            ->whereIn('source', ['edit', 'progress', 'undo', 'import', 'draft', 'handover'])
            ->whereIn('state', ['applied', 'undone'])->where(static fn ($q) => $q->whereNull('items'))->whereIn('id', $touching)
            ->latest('applied_at')->latest('id')->limit(4 * self::MOST)
            ->get(['id', 'uid', 'reason', 'state', 'undoes_id', 'step'])->keyBy('id');
        $undo = $redo = [];
        foreach ($own->reverse() as $changeSet) { // in the order in which they were carried out
            [$depth, $root] = self::root($changeSet, $own);
            if ($depth === 0) {
                $redo = [];
            }
            if ($changeSet->state !== 'applied') {
                continue;
            }
            $step = $root->step ?? $root->uid;
            if ($depth % 2 === 0) {
                self::add($undo, $step, $changeSet->uid, $root->reason);
            } else {
                self::add($redo, $step, $changeSet->uid, $root->reason);
            }
        }

        return ['undo' => array_slice(array_values($undo), -self::MOST), 'redo' => array_slice(array_values($redo), -self::MOST)];
    }

    /**
     * @param  \Illuminate\Support\Collection<array-key, ChangeSet>  $own
     * @return array{int, ChangeSet} how often it was turned, and the edit at the bottom; taking back what somebody else did is an
     *     edit too
     */
    private static function root(ChangeSet $changeSet, $own): array
    {
        $depth = 0;
        while ($changeSet->undoes_id !== null && ($next = $own->get($changeSet->undoes_id)) !== null) {
            $changeSet = $next;
            $depth++;
        }

        return [$depth, $changeSet];
    }

    /** @param  array<string, Step>  $steps */
    private static function add(array &$steps, string $step, string $uid, string $reason): void
    {
        $at = $steps[$step] ?? ['changeSets' => [], 'headline' => $reason];
        unset($steps[$step]); // a step stands where its last change set does
        $steps[$step] = ['changeSets' => [...$at['changeSets'], $uid], 'headline' => $at['headline']];
    }
}

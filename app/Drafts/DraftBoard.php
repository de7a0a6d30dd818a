<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Access\Reach;
use App\Board\BaselineColumns;
use App\Board\PlanRows;
use App\Board\Projection;
use App\Database\Rows;
use App\Planning\RippleView;
use Illuminate\Support\Facades\DB;

/** A draft on a board: rows as it has them, the live dates beside them where they differ, and what differs in all. */
final class DraftBoard
{
    /**
     * @param  list<int>  $projects  ids of those that are shown
     * @return array<string, mixed>
     */
    public static function of(DraftPlan $draft, array $projects, Reach $reach): array
    {
        /** @var array<int, string> $uids */
        $uids = DB::table('projects')->whereIn('id', $projects)->pluck('uid', 'id')->all();
        $shown = array_values(array_filter($uids, static fn (string $uid): bool => isset($draft->after->plan->projects[$uid])));
        $rows = new PlanRows($draft->after, $shown, $reach, $draft->known);

        return (new Projection($rows, $reach, editable: true))->all() + ['variances' => self::live($draft, $shown)];
    }

    /**
     * The same as what a board takes after a change: all rows, and the uids of those that are gone.
     *
     * @param  list<int>  $projects
     * @return array<string, mixed>
     */
    public static function delta(DraftPlan $draft, array $projects, Reach $reach): array
    {
        $gone = [];
        foreach (['wbs', 'activities', 'links'] as $list) {
            array_push($gone, ...array_map(strval(...), array_keys(array_diff_key($draft->before->plan->{$list},
                $draft->after->plan->{$list}))));
        }

        return self::of($draft, $projects, $reach) + ['removed' => $gone];
    }

    /** @return array<string, mixed> how it differs from the live plan */
    public static function comparison(DraftPlan $draft, Reach $reach): array
    {
        return RippleView::of($draft->comparison()->toArray(), $reach);
    }

    /**
     * Live dates of activities that lie elsewhere in the draft, as a baseline to compare with; variances in working minutes.
     *
     * @param  list<string>  $shown
     * @return array<string, list<mixed>>
     */
    private static function live(DraftPlan $draft, array $shown): array
    {
        $wanted = array_flip($shown);
        [$live, $after] = [$draft->live, $draft->after];
        $dates = [];
        foreach ($after->plan->activities as $uid => $activity) {
            if (isset($live->network->node[$uid], $wanted[$activity->project])) {
                $was = $live->activity($uid);
                $dates[$uid] = [$was->earlyStart, $was->earlyFinish];
            }
        }

        return BaselineColumns::beside($dates, $after);
    }
}

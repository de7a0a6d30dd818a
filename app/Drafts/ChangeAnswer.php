<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Access\Reach;
use App\Board\BoardQuery;
use App\Planning\Outcome;
use App\Planning\RippleView;

/** What a change set did, as one user may see it, with what brings their board up to date. */
final class ChangeAnswer
{
    /**
     * @param  string  $board  keys of the working set, with commas between
     * @param  array<string, int>  $known project uid => revision up to which the board is current; where none is given, the one before
     *     the change set
     * @return array<string, mixed>
     */
    public static function of(Outcome $outcome, Reach $reach, string $board, array $known = []): array
    {
        $keys = array_values(array_filter(explode(',', $board)));
        $ids = $keys === [] ? [] : $reach->workingSet($keys, $known);

        $board = $outcome->changeSet === null || $ids === [] ? null : (new BoardQuery($reach, $ids))->since($known + $outcome->known);
        if ($outcome instanceof DraftOutcome && $ids !== []) {
            $board = DraftBoard::delta($outcome->draft, $ids, $reach);
        }

        return [
            'changeSet' => $outcome->changeSet,
            'ripple' => RippleView::of($outcome->ripple, $reach),
            'revisions' => (object) array_intersect_key($outcome->revisions, $reach->projects()),
            'board' => $board,
            'kept' => self::kept($outcome),
        ];
    }

    /**
     * @return list<array{stays: string, follows: string, activity: string, count: int}> what stayed and what followed, with the first
     *     activity and how many there are
     */
    private static function kept(Outcome $outcome): array
    {
        $kept = [];
        foreach ($outcome->kept as ['activity' => $activity, 'stays' => $stays, 'follows' => $follows]) {
            $kept["{$stays->value} {$follows->value}"] ??= ['stays' => $stays->value, 'follows' => $follows->value,
                'activity' => $activity, 'count' => 0];
            $kept["{$stays->value} {$follows->value}"]['count']++;
        }

        return array_values($kept);
    }
}

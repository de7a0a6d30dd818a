<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Access\Reach;
use App\Board\BaselineColumns;
use App\Board\PlanRows;
use App\Board\Projection;
use App\History\ChangeSetReach;
use App\History\Said;
use App\Models\ChangeSet;
use App\Planning\ChangeRequest;
use App\Planning\Outcome;
use App\Planning\Planning;
use App\Planning\RippleView;
use App\Planning\TouchedProjects;
use Illuminate\Validation\ValidationException;
use LogicException;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\Schedule;

/** A proposal before anything of it is written: the board as it would be beside the dates of now, what moves, and its items. */
final class ProposalView
{
    private const MOST_OPERATIONS = 20_000;

    /** items that are told one by one */
    private const TOLD = 1000;

    public function __construct(private readonly Reach $reach, private readonly Planning $planning, private readonly ChangeSetReach $sets,
        private readonly Said $said)
    {
    }

    /**
     * @param  list<int>|null  $wanted  positions of items that are to be tried, with what they need; null for all that is open
     * @return array<string, mixed>
     */
    public function of(ChangeSet $changeSet, ?array $wanted): array
    {
        $proposal = $changeSet->proposal();
        $open = $proposal->open();
        $tried = $wanted === null ? $open : $proposal->accept(array_values(array_intersect($wanted, $open)))[0];
        $operations = array_map(static fn (int $at): Operation => $proposal->operations[$at], $tried);
        if (count($operations) > self::MOST_OPERATIONS) {
            throw ValidationException::withMessages(
                ['changeSet' => 'This proposal is too large to be shown on a board before it is applied.']);
        }
        $all = array_map(static fn (int $at): Operation => $proposal->operations[$at], $open);
        $outcome = $this->planning->dryRun(new ChangeRequest($operations, source: $changeSet->source), TouchedProjects::of($all));
        $schedule = $outcome->schedule ?? throw new LogicException('a dry run has a schedule');
        $hides = $this->sets->hidesOwn($changeSet);
        $told = $hides ? [] : array_slice($open, 0, self::TOLD);
        $listed = array_map(static fn (int $at): Operation => $proposal->operations[$at], $told);
        $isTried = array_fill_keys($tried, true);
        $items = [];
        foreach ($this->said->of($listed) as $i => $item) {
            $items[] = ['at' => $told[$i], 'row' => self::row($listed[$i], $schedule), 'tried' => isset($isTried[$told[$i]])] + $item;
        }

        return ['board' => $this->board($outcome, $schedule, $all),
            'ripple' => RippleView::of($outcome->ripple, $this->reach), 'proposal' => ChangeSetReach::listed($changeSet, $hides),
            'items' => $items, 'more' => count($open) - count($items)];
    }

    /**
     * @param  list<Operation>  $open  what is open of the proposal: its projects stay on the board whatever is tried of it
     * @return array<string, mixed>
     */
    private function board(Outcome $outcome, Schedule $schedule, array $open): array
    {
        $shown = [];
        foreach ([...$outcome->operations, ...$open] as $o) {
            $project = $schedule->plan->ownerOf($o->kind, $o->uid);
            if ($project !== null && (isset($this->reach->projects()[$project]) || ! isset($outcome->known[$project]))) {
                $shown[$project] = true;
            }
        }
        $rows = new PlanRows($schedule, array_map(strval(...), array_keys($shown)), $this->reach, $outcome->known);
        $before = [];
        foreach (array_intersect_key($outcome->moves, $shown) as $moves) {
            foreach ($moves as $uid => [$start, , $finish]) {
                if (isset($schedule->network->node[$uid])) {
                    $before[$uid] = [$start, $finish];
                }
            }
        }

        return (new Projection($rows, $this->reach, editable: false))->all() + ['variances' => BaselineColumns::beside($before, $schedule)];
    }

    /** The row of the board on which an item shows: its own, or that of what it stands on; none where it is gone. */
    private static function row(Operation $o, Schedule $schedule): ?string
    {
        if (in_array($o->kind, [EntityKind::Project, EntityKind::Wbs, EntityKind::Activity], true)) {
            return $schedule->plan->find($o->kind, $o->uid) === null ? null : $o->uid;
        }
        $thing = $schedule->plan->find($o->kind, $o->uid)?->fields() ?? ($o->after ?? []) + ($o->before ?? []);
        foreach (['to', 'activity', 'wbs', 'project'] as $field) {
            if (is_string($thing[$field] ?? null)) {
                return $thing[$field];
            }
        }

        return null;
    }
}

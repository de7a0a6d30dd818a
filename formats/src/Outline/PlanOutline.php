<?php

declare(strict_types=1);

namespace Reihe\Formats\Outline;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Formats\Table\Sheet;

/** WBS and activities as an outline, and an outline as a table. */
final class PlanOutline
{
    /** @return list<OutlineItem> what lies in a project, in the order of its rows */
    public static function of(Plan $plan, string $project, bool $withActivities): array
    {
        $rows = [];
        foreach ([...$plan->wbs, ...($withActivities ? $plan->activities : [])] as $row) {
            $row->project !== $project ?: $rows[($row instanceof WbsElement ? $row->parent : $row->wbs) ?? ''][] = $row;
        }

        return self::below($rows, '');
    }

    /** @return list<OutlineItem> all projects of a plan; several stand beside each other */
    public static function whole(Plan $plan): array
    {
        $items = array_map(static fn (int|string $uid): array => self::of($plan, (string) $uid, true), array_keys($plan->projects));

        return count($items) === 1 ? $items[0] : array_map(static fn (Project $p, array $below): OutlineItem => new OutlineItem($p->key,
            $p->name, $below), array_values($plan->projects), $items);
    }

    /**
     * An outline as a table of codes and names, indented.
     *
     * @param  list<OutlineItem>  $items
     */
    public static function sheet(array $items): Sheet
    {
        $rows = [1 => ['indent' => 0, 'cells' => ['Name', 'Code']]];
        self::lines($items, 0, $rows);

        return new Sheet('OPML', $rows);
    }

    /**
     * @param  list<OutlineItem>  $items
     * @param  array<int, array{indent: int, cells: list<string>}>  $rows
     */
    private static function lines(array $items, int $depth, array &$rows): void
    {
        foreach ($items as $item) {
            $rows[] = ['indent' => $depth, 'cells' => [$item->name, $item->code]];
            self::lines($item->children, $depth + 1, $rows);
        }
    }

    /**
     * @param  array<string, list<WbsElement|Activity>>  $rows  by what they lie in
     * @return list<OutlineItem>
     */
    private static function below(array $rows, string $parent): array
    {
        $list = $rows[$parent] ?? [];
        usort($list, static fn (WbsElement|Activity $a, WbsElement|Activity $b): int => [$a->position, $a->uid]
            <=> [$b->position, $b->uid]);

        return array_map(static fn (WbsElement|Activity $w): OutlineItem => new OutlineItem($w->code, $w->name === '' ? $w->code : $w->name,
            $w instanceof WbsElement ? self::below($rows, $w->uid) : []), $list);
    }
}

<?php

declare(strict_types=1);

namespace App\Planning;

use App\Planning\Tables\CalendarTable;
use App\Planning\Tables\Table;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** Reads connected parts of the network, in bulk and without models. */
final class PlanStore
{
    /**
     * Projects joined with the given ones by handovers, directly or through others.
     *
     * @param  list<int>  $projects
     * @return list<int> sorted, the given ones included
     */
    public static function connected(array $projects): array
    {
        $near = [];
        foreach (Rows::all('SELECT DISTINCT from_project_id, to_project_id FROM links WHERE handover = 1') as [$from, $to]) {
            $near[$to][] = (int) $from;
            $near[$from][] = (int) $to;
        }
        $seen = array_fill_keys($projects, true);
        for ($queue = $projects; $queue !== [];) {
            foreach ($near[array_pop($queue)] ?? [] as $next) {
                if (! isset($seen[$next])) {
                    $seen[$next] = true;
                    $queue[] = $next;
                }
            }
        }
        $all = array_keys($seen);
        sort($all);

        return $all;
    }

    /** @param  list<int>  $projects ids */
    public static function load(array $projects): LoadedPlan
    {
        $in = Rows::in($projects);
        $ids = new Ids;
        $lists = [];
        foreach (EntityKind::cases() as $kind) {
            $lists[$kind->entry()->list] = Table::of($kind)->load($in, $ids);
        }
        /** @phpstan-ignore argument.type */
        $plan = new Plan(...$lists);
        /** @var array<string, int> $revisions */
        $revisions = array_column(Rows::all("SELECT uid, revision FROM projects WHERE id IN {$in}"), 1, 0);
        $results = Results::load($in);

        return new LoadedPlan($plan, $ids, $revisions, $results, Results::snapshot($plan, $results));
    }

    /** @return array<string, Calendar> all calendars by uid, in the order of their keys */
    public static function calendars(): array
    {
        /** @var array<string, Calendar> */
        return (new CalendarTable)->load('(0)', new Ids);
    }
}

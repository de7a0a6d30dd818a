<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use App\Planning\Tables\Table;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Stub;

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

    /**
     * Projects with everything in them and all links of their activities; far ends of handovers to other projects as stubs.
     *
     * @param  list<int>  $projects ids
     * @return array{Plan, Ids}
     */
    public static function load(array $projects): array
    {
        $in = Rows::in($projects);
        $ids = new Ids;
        $stubs = self::farEnds($in, $ids);
        $lists = [];
        foreach (EntityKind::cases() as $kind) {
            $lists[$kind->value] = Table::of($kind)->load($in, $ids);
        }

        return [Plan::from($lists, $stubs), $ids];
    }

    /** @return array<string, Stub> */
    private static function farEnds(string $in, Ids $ids): array
    {
        $stubs = [];
        foreach (Rows::all("SELECT a.id, a.uid, p.`key`, a.code, a.name, d.start, d.finish
            FROM (SELECT from_id AS id FROM links WHERE handover = 1 AND to_project_id IN {$in} AND from_project_id NOT IN {$in}
                UNION SELECT to_id FROM links WHERE handover = 1 AND from_project_id IN {$in} AND to_project_id NOT IN {$in}) e
            JOIN activities a ON a.id = e.id JOIN projects p ON p.id = a.project_id LEFT
                JOIN activity_dates d ON d.activity_id = a.id") as [$id, $uid, $key, $code, $name, $start, $finish]) {
            $stubs[(string) $uid] = new Stub((string) $uid, "{$key}/{$code}", (string) $name, (int) $start, (int) $finish);
            $ids->set(EntityKind::Activity, (string) $uid, (int) $id);
        }

        return $stubs;
    }

    /** @return array<string, Calendar> all calendars by uid, in the order of their keys */
    public static function calendars(): array
    {
        /** @var array<string, Calendar> */
        return Table::of(EntityKind::Calendar)->load('(0)', new Ids);
    }
}

<?php

declare(strict_types=1);

namespace App\Resources;

use App\Database\Rows;
use App\Planning\Ids;
use App\Planning\Tables\Table;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\ResourceKind;
use Reihe\Core\Schedule\Schedule;

/** Who has what an activity needs while levelling holds it back: told from the plan as it is, so that it is true whoever set the delay. */
final readonly class Holders
{
    private const MOST = 5;

    /** one, full time, in thousandths of a percent: where no intensity is told */
    private const ONE = 100_000;

    /**
     * @return list<array{resource: string, name: string, activity: string, finish: int}> uid of a resource, its name or key, uid of an
     *     activity that uses it in that time and when it ends; the last ones first
     */
    public static function of(string $activity, int $from, int $to, Schedule $schedule): array
    {
        $n = $schedule->network;
        $found = $uses = $needs = [];
        foreach (Rows::all("SELECT r.uid, IF(r.name = '', r.`key`, r.name), a.uid, d.remaining_start, d.finish, s.intensity,
                o.intensity FROM assignments s
            JOIN activities own ON own.id = s.activity_id JOIN resources r ON r.id = s.resource_id
            JOIN assignments o ON o.resource_id = s.resource_id AND o.activity_id <> s.activity_id AND o.remaining_work > 0
            JOIN activities a ON a.id = o.activity_id JOIN projects p ON p.id = a.project_id
            JOIN activity_dates d ON d.activity_id = a.id
            WHERE own.uid IN ".Rows::quoted([$activity])." AND s.remaining_work > 0 AND r.kind <> '".ResourceKind::Material->value."'
                AND ".LoadQuery::LIVE) as $row) {
            /** @var array{string, string, string, int, int, int|null, int|null} $row */
            [$resource, $name, $user, $start, $finish, $own, $other] = $row;
            if (isset($n->node[$user])) { // also as a draft has it
                [$start, $finish] = [$schedule->dates->begin[$n->node[$user]], $schedule->dates->finish[$n->node[$user]]];
            }
            if ($start < $to && $finish > $from) {
                $found[] = ['resource' => $resource, 'name' => $name, 'activity' => $user, 'finish' => $finish];
                $uses[$resource][] = [max($start, $from), $finish, $other ?? self::ONE];
                $needs[$resource] = $own ?? self::ONE;
            }
        }
        $short = self::short($uses, $needs);
        $found = array_values(array_filter($found, static fn (array $h): bool => $short === [] || isset($short[$h['resource']])));
        usort($found, static fn (array $a, array $b): int => [$b['finish'], $a['activity']] <=> [$a['finish'], $b['activity']]);

        return array_slice($found, 0, self::MOST);
    }

    /**
     * Of which resources there is not enough for one more at some moment.
     *
     * @param  array<string, list<array{int, int, int}>>  $uses  resource => from, to, intensity of those that have it
     * @param  array<string, int>  $needs  resource => intensity of one more
     * @return array<string, true>
     */
    private static function short(array $uses, array $needs): array
    {
        $ids = new Ids;
        Table::of(EntityKind::Calendar)->load('(0)', $ids);
        $short = [];
        foreach (array_intersect_key(Table::of(EntityKind::Resource)->load('(0)', $ids), $uses) as $uid => $resource) {
            foreach ($uses[$uid] as [$moment]) {
                $sum = $needs[$uid];
                foreach ($uses[$uid] as [$from, $to, $intensity]) {
                    $sum += $from <= $moment && $to > $moment ? $intensity : 0;
                }
                if ($resource instanceof Resource && $sum > $resource->unitsAt($moment) * 1000) {
                    $short[(string) $uid] = true;
                    break;
                }
            }
        }

        return $short;
    }
}

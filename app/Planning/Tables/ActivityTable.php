<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Database\Rows;
use App\Planning\Ids;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\ChecklistItem;
use Reihe\Core\Plan\Constraint;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Plan\OutsideDates;
use Reihe\Core\Plan\PercentBy;
use Reihe\Core\Plan\Plan;

/**
 * Activities; how progress is measured, and suspension, of the few that have any stand in `measures`, dates of those kept
 * outside in `outside_dates`.
 */
final class ActivityTable extends DescribedTable
{
    private const CONSTRAINTS = ['constraint1_kind', 'constraint1_date', 'constraint2_kind', 'constraint2_date'];

    protected function apart(): array
    {
        return ['constraints', 'suspend', 'measure', 'outside'];
    }

    protected function beside(string $in): array
    {
        $beside = self::measures($in);
        foreach (self::outside($in) as $id => $outside) {
            $beside[$id] = ($beside[$id] ?? []) + $outside;
        }

        return $beside;
    }

    protected function further(): array
    {
        return self::CONSTRAINTS;
    }

    protected function made(array $stored): array
    {
        /** @var array{string|null, int|null, string|null, int|null} $stored */
        return ['constraints' => $stored[0] === null ? [] : self::constraints(...$stored)];
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        assert($entity instanceof Activity);
        [$one, $two] = [$entity->constraints[0] ?? null, $entity->constraints[1] ?? null];

        return parent::values($entity, $ids, $plan) + array_combine(self::CONSTRAINTS,
            [$one?->kind->value, $one?->date, $two?->kind->value, $two?->date]);
    }

    public function writeBeside(array $entities, Ids $ids, Plan $plan): void
    {
        $plain = Catalogue::written(new Measure);
        $rows = $owners = $outside = [];
        foreach ($entities as $a) {
            assert($a instanceof Activity);
            $id = $owners[] = $ids->id(EntityKind::Activity, $a->uid);
            $e = $a->measure;
            $o = $a->outside;
            if ($o->outsideStart !== null) {
                $outside[] = ['activity_id' => $id, 'start' => $o->outsideStart, 'finish' => $o->outsideFinish, 'source' => $o->source,
                    'as_of' => $o->asOf];
            }
            if ($a->suspend !== null || Catalogue::written($e) !== $plain) {
                $rows[] = ['activity_id' => $id, 'percent_by' => $e->percentBy->value, 'physical_percent' => $e->physicalPercent,
                    'checklist' => $e->checklist === [] ? null
                        : json_encode(Catalogue::written($e)['checklist'], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
                    'suspend' => $a->suspend];
            }
        }
        Rows::replace('measures', 'activity_id', $owners, $rows);
        Rows::replace('outside_dates', 'activity_id', $owners, $outside);
    }

    /** @return array<int, array{suspend: int|null, measure: Measure}> by activity id, of those that have any */
    private static function measures(string $in): array
    {
        $measures = [];
        foreach (Rows::all("SELECT e.activity_id, e.percent_by, e.physical_percent, e.checklist, e.suspend
            FROM measures e JOIN activities a ON a.id = e.activity_id WHERE a.project_id IN {$in}") as $r) {
            $checklist = array_map(static fn (array $i): ChecklistItem => new ChecklistItem($i['name'], (float) $i['weight'], $i['done']),
                json_decode($r[3] ?? '[]', true));
            $measures[$r[0]] = ['suspend' => $r[4],
                'measure' => new Measure(PercentBy::from($r[1]), $r[2] === null ? null : (float) $r[2], $checklist)];
        }

        return $measures;
    }

    /** @return array<int, array{outside: OutsideDates}> by activity id */
    private static function outside(string $in): array
    {
        $outside = [];
        foreach (Rows::all("SELECT o.activity_id, o.start, o.finish, o.source, o.as_of FROM outside_dates o
            JOIN activities a ON a.id = o.activity_id WHERE a.project_id IN {$in}") as $r) {
            $outside[$r[0]] = ['outside' => new OutsideDates($r[1], $r[2], $r[3], $r[4])];
        }

        return $outside;
    }

    /** @return list<Constraint> */
    private static function constraints(string $kind1, ?int $date1, ?string $kind2, ?int $date2): array
    {
        $list = [new Constraint(ConstraintKind::from($kind1), $date1)];
        if ($kind2 !== null) {
            $list[] = new Constraint(ConstraintKind::from($kind2), $date2);
        }

        return $list;
    }
}

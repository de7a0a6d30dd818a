<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Planning\Ids;
use App\Planning\Rows;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\ChecklistItem;
use Reihe\Core\Plan\Constraint;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Plan\OutsideDates;
use Reihe\Core\Plan\PercentBy;
use Reihe\Core\Plan\Plan;

/**
 * Activities; how progress is measured, and suspension, of the few that have any stand in `measures`, dates of those kept
 * outside in `outside_dates`.
 */
final class ActivityTable extends Table
{
    public function name(): string
    {
        return 'activities';
    }

    public function load(string $in, Ids $ids): array
    {
        $measures = self::measures($in);
        $outside = self::outside($in);
        $kind = EntityKind::Activity;
        $activities = [];
        foreach (Rows::each("SELECT id, uid, project_id, wbs_id, position, code, name, kind, duration, estimate, calendar_id,
            constraint1_kind, constraint1_date,
            constraint2_kind, constraint2_date, deadline, actual_start, actual_finish, remaining, resume FROM activities
                WHERE project_id IN {$in}") as $r) {
            $activities[$r[1]] = new Activity($r[1], $ids->uid(EntityKind::Project, $r[2]), $ids->uidOrNull(EntityKind::Wbs, $r[3]),
                (float) $r[4], $r[5], $r[6], Kind::from($r[7]), $r[8], (bool) $r[9],
                $ids->uidOrNull(EntityKind::Calendar, $r[10]), $r[11] === null ? [] : self::constraints($r[11], $r[12], $r[13], $r[14]),
                $r[15], $r[16], $r[17], $r[18], $r[19],
                ...$measures[$r[0]] ?? [], ...$outside[$r[0]] ?? []);
            $ids->set($kind, $r[1], $r[0]);
        }

        return $activities;
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        assert($entity instanceof Activity);
        $a = $entity;
        $one = $a->constraints[0] ?? null;
        $two = $a->constraints[1] ?? null;

        return ['project_id' => $ids->id(EntityKind::Project, $a->project), 'wbs_id' => $ids->idOrNull(EntityKind::Wbs, $a->wbs),
            'position' => $a->position,
            'code' => $a->code, 'name' => $a->name, 'kind' => $a->kind->value, 'duration' => $a->duration, 'estimate' => $a->estimate,
            'calendar_id' => $ids->idOrNull(EntityKind::Calendar, $a->calendar), 'constraint1_kind' => $one?->kind->value,
            'constraint1_date' => $one?->date,
            'constraint2_kind' => $two?->kind->value, 'constraint2_date' => $two?->date,
            'deadline' => $a->deadline, 'actual_start' => $a->actualStart, 'actual_finish' => $a->actualFinish,
            'remaining' => $a->remaining, 'resume' => $a->resume];
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

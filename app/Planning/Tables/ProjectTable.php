<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Planning\Ids;
use App\Planning\Rows;
use Reihe\Core\Plan\CriticalBy;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FloatMeasure;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\OutOfSequence;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;

final class ProjectTable extends Table
{
    public function name(): string
    {
        return 'projects';
    }

    public function projectColumns(): array
    {
        return ['id'];
    }

    public function load(string $in, Ids $ids): array
    {
        $projects = [];
        foreach (Rows::all("SELECT id, uid, `key`, name, branch_id, calendar_id, start, status_date, deadline, float_measure, critical_by,
            critical_days, near_critical_days,
            out_of_sequence, lag_calendar, lead, colour, kept, archived, level_scheme_id, home, made_from
                        FROM projects WHERE id IN {$in} ORDER BY id") as $r) {
            $projects[$r[1]] = new Project($r[1], $r[2], $r[3], $ids->uid(EntityKind::Branch, $r[4]),
                $ids->uid(EntityKind::Calendar, $r[5]), $r[6], $r[7], $r[8], FloatMeasure::from($r[9]), CriticalBy::from($r[10]),
                (float) $r[11], (float) $r[12], OutOfSequence::from($r[13]), LagCalendar::from($r[14]), $r[15], $r[16],
                Kept::from($r[17]), (bool) $r[18],
                $ids->uidOrNull(EntityKind::LevelScheme, $r[19]), $r[20], $r[21]);
            $ids->set(EntityKind::Project, $r[1], $r[0]);
        }

        return $projects;
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        assert($entity instanceof Project);
        $p = $entity;

        return ['key' => $p->key, 'name' => $p->name, 'branch_id' => $ids->id(EntityKind::Branch, (string) $p->branch),
            'calendar_id' => $ids->id(EntityKind::Calendar, $p->calendar), 'start' => $p->start,
            'status_date' => $p->statusDate, 'deadline' => $p->deadline, 'float_measure' => $p->floatMeasure->value,
            'critical_by' => $p->criticalBy->value,
            'critical_days' => $p->criticalDays, 'near_critical_days' => $p->nearCriticalDays,
            'out_of_sequence' => $p->outOfSequence->value,
            'lag_calendar' => $p->lagCalendar->value, 'lead' => $p->lead, 'colour' => $p->colour,
            'kept' => $p->kept->value, 'archived' => $p->archived,
            'level_scheme_id' => $ids->idOrNull(EntityKind::LevelScheme, $p->levelScheme), 'home' => $p->home, 'made_from' => $p->madeFrom];
    }
}

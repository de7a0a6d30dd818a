<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Planning\Ids;
use App\Planning\Rows;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\CriticalBy;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FloatMeasure;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\OutOfSequence;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;

/** Projects, with the codes they are given. */
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
        $codes = [];
        foreach (Rows::all("SELECT pc.project_id, s.`key`, v.`key` FROM project_codes pc JOIN code_sets s ON s.id = pc.code_set_id
            JOIN code_entries v ON v.id = pc.code_entry_id WHERE pc.project_id IN {$in} ORDER BY s.`key`") as [$project, $set, $value]) {
            $codes[(int) $project][(string) $set] = (string) $value;
        }
        $projects = [];
        foreach (Rows::all("SELECT id, uid, `key`, name, branch_id, calendar_id, start, status_date, deadline, float_measure, critical_by, critical_days, near_critical_days,
            out_of_sequence, lag_calendar, lead, colour FROM projects WHERE id IN {$in} ORDER BY id") as $r) {
            $own = $codes[(int) $r[0]] ?? [];
            ksort($own);
            $projects[$r[1]] = new Project($r[1], $r[2], $r[3], (string) $r[4], $ids->uid(EntityKind::Calendar, $r[5]), $r[6], $r[7], $r[8], FloatMeasure::from($r[9]), CriticalBy::from($r[10]),
                (float) $r[11], (float) $r[12], OutOfSequence::from($r[13]), LagCalendar::from($r[14]), $r[15], $r[16], $own);
            $ids->set(EntityKind::Project, $r[1], $r[0]);
        }

        return $projects;
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        assert($entity instanceof Project);
        $p = $entity;

        return ['key' => $p->key, 'name' => $p->name, 'branch_id' => (int) $p->branch, 'calendar_id' => $ids->id(EntityKind::Calendar, $p->calendar), 'start' => $p->start,
            'status_date' => $p->statusDate, 'deadline' => $p->deadline, 'float_measure' => $p->floatMeasure->value, 'critical_by' => $p->criticalBy->value,
            'critical_days' => $p->criticalDays, 'near_critical_days' => $p->nearCriticalDays, 'out_of_sequence' => $p->outOfSequence->value,
            'lag_calendar' => $p->lagCalendar->value, 'lead' => $p->lead, 'colour' => $p->colour];
    }

    public function writeBeside(array $entities, Ids $ids, Plan $plan): void
    {
        $known = [];
        foreach (DB::table('code_entries')->join('code_sets', 'code_sets.id', '=', 'code_entries.code_set_id')->where('scope', 'project')
            ->get(['code_sets.key as set', 'code_entries.key as value', 'code_sets.id as set_id', 'code_entries.id as value_id']) as $v) {
            /** @var object{set: string, value: string, set_id: int, value_id: int} $v */
            $known[$v->set][$v->value] = [$v->set_id, $v->value_id];
        }
        $rows = $owners = [];
        foreach ($entities as $project) {
            assert($project instanceof Project);
            $owners[] = $ids->id(EntityKind::Project, $project->uid);
            foreach ($project->codes as $set => $value) {
                [$setId, $valueId] = $known[$set][$value] ?? throw new \LogicException("code {$set} {$value} was checked before");
                $rows[] = ['project_id' => $ids->id(EntityKind::Project, $project->uid), 'code_set_id' => $setId, 'code_entry_id' => $valueId];
            }
        }
        Rows::replace('project_codes', 'project_id', $owners, $rows);
    }
}

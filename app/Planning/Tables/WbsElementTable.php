<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Planning\Ids;
use App\Planning\Rows;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;

final class WbsElementTable extends Table
{
    public function name(): string
    {
        return 'wbs_elements';
    }

    public function parentField(): string
    {
        return 'parent';
    }

    public function parentColumn(): string
    {
        return 'parent_id';
    }

    public function load(string $in, Ids $ids): array
    {
        $rows = Rows::all("SELECT id, uid, project_id, parent_id, position, code, name, deadline FROM wbs_elements WHERE project_id IN {$in}
            ORDER BY id");
        foreach ($rows as $r) {
            $ids->set(EntityKind::Wbs, $r[1], $r[0]);
        }
        $elements = [];
        foreach ($rows as $r) {
            $elements[$r[1]] = new WbsElement($r[1], $ids->uid(EntityKind::Project, $r[2]), $ids->uidOrNull(EntityKind::Wbs, $r[3]),
                (float) $r[4], $r[5], $r[6], $r[7]);
        }

        return $elements;
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        assert($entity instanceof WbsElement);

        return ['project_id' => $ids->id(EntityKind::Project, $entity->project),
            'parent_id' => $ids->idOrNull(EntityKind::Wbs, $entity->parent),
            'position' => $entity->position, 'code' => $entity->code, 'name' => $entity->name, 'deadline' => $entity->deadline];
    }
}

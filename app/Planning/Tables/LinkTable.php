<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Database\Rows;
use App\Planning\Ids;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;

/** Links; what was agreed about a handover stands in `agreements`. */
final class LinkTable extends Table
{
    public function name(): string
    {
        return 'links';
    }

    public function projectColumns(): array
    {
        return ['from_project_id', 'to_project_id'];
    }

    public function load(string $in, Ids $ids): array
    {
        $agreements = [];
        foreach (Rows::all("SELECT g.link_id, g.agreed, g.giver_owner, g.taker_owner, g.note FROM agreements g
            JOIN links l ON l.id = g.link_id
            WHERE l.to_project_id IN {$in} OR l.from_project_id IN {$in}") as $r) {
            $agreements[$r[0]] = [$r[1], $r[2], $r[3], $r[4]];
        }
        $links = [];
        $columns = 'id, uid, from_id, to_id, type, lag, lag_calendar';
        foreach (Rows::each("SELECT {$columns} FROM links WHERE to_project_id IN {$in}
            UNION ALL SELECT {$columns} FROM links WHERE handover = 1 AND from_project_id IN {$in} AND to_project_id NOT IN {$in}") as $r) {
            $links[$r[1]] = new Link($r[1], $ids->uid(EntityKind::Activity, $r[2]), $ids->uid(EntityKind::Activity, $r[3]),
                LinkType::from($r[4]), $r[5],
                $r[6] === null ? null : LagCalendar::from($r[6]), ...$agreements[$r[0]] ?? []);
            $ids->set(EntityKind::Link, $r[1], $r[0]);
        }

        return $links;
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        assert($entity instanceof Link);
        $l = $entity;
        $project = static fn (string $activity): int => $ids->id(EntityKind::Project, $plan->activities[$activity]->project);

        return ['from_id' => $ids->id(EntityKind::Activity, $l->from), 'to_id' => $ids->id(EntityKind::Activity, $l->to),
            'from_project_id' => $project($l->from), 'to_project_id' => $project($l->to),
            'type' => $l->type->value, 'lag' => $l->lag, 'lag_calendar' => $l->lagCalendar?->value, 'handover' => $plan->isHandover($l)];
    }

    public function writeBeside(array $entities, Ids $ids, Plan $plan): void
    {
        $rows = $inner = $owners = [];
        foreach ($entities as $l) {
            assert($l instanceof Link);
            $id = $owners[] = $ids->id(EntityKind::Link, $l->uid);
            if (! $plan->isHandover($l)) {
                $inner[] = $id;
            }
            if ($l->agreed !== null || $l->giverOwner !== null || $l->takerOwner !== null || $l->note !== null) {
                $rows[] = ['link_id' => $id, 'agreed' => $l->agreed, 'giver_owner' => $l->giverOwner, 'taker_owner' => $l->takerOwner,
                    'note' => $l->note];
            }
        }
        Rows::replace('handover_dates', 'link_id', $inner, []);
        Rows::replace('agreements', 'link_id', $owners, $rows);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Planning\Identities;
use App\Planning\Tables\DescribedTable;
use App\Planning\Tables\Table;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;

/** What stands on an activity and has no answer of its own: open ends, assignments; in written form. */
final class ObjectController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function onActivity(string $uid, string $kind): JsonResponse
    {
        $found = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
            ->where('activities.uid', $uid)->value('activities.id');
        $of = EntityKind::tryFrom($kind);
        $table = $of === null ? null : Table::of($of);
        abort_if(! is_int($found) || ! $table instanceof DescribedTable || ! in_array($of, EntityKind::standingOnActivities(), true), 404);
        $told = static fn (Entity $object): array => ['uid' => $object->uid(), 'fields' => $object->fields()];

        return new JsonResponse(['objects' => array_values(array_map($told, $table->on($found, $uid)))]);
    }

    public function identities(string $uid): JsonResponse
    {
        $seen = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
            ->where('activities.uid', $uid)->exists();
        abort_if(! $seen, 404);

        return new JsonResponse(['identities' => Identities::of(EntityKind::Activity, $uid)]);
    }
}

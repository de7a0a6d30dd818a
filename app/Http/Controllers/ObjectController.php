<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Planning\PlanStore;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;

/** What stands on an activity: remarks and whatever else activities have, in written form. */
final class ObjectController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function onActivity(string $uid, string $kind): JsonResponse
    {
        $found = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))->where('activities.uid', $uid)->value('projects.id');
        $of = EntityKind::tryFrom($kind);
        abort_if(! is_int($found) || $of === null || ! in_array($of, EntityKind::standingOnActivities(), true), 404);
        $through = $of->entry()->ownedThrough->field ?? '';
        $objects = array_filter(PlanStore::load([$found])[0]->all($of), static fn (Entity $object): bool => ($object->fields()[$through] ?? null) === $uid);

        return new JsonResponse(['objects' => array_values(array_map(static fn (Entity $object): array => ['uid' => $object->uid(), 'fields' => $object->fields()], $objects))]);
    }
}

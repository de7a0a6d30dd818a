<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Plan;

/** Whose objects a change set alters, on which rows it shows, and the revisions that rise with it. */
final class Touched
{
    /**
     * What stands on an activity shows on its row, so the row is news too.
     *
     * @param  array<string, int>  $revisions
     * @return list<array{project: string, revision: int, kind: EntityKind, uid: string, verb: string, fields: list<string>}>
     */
    public static function shownOn(Operation $o, Plan $before, Plan $after, array $revisions): array
    {
        $through = $o->kind->entry()->ownedThrough;
        if ($through?->to !== EntityKind::Activity || $o->kind === EntityKind::Link) {
            return [];
        }
        $activity = ($o->after ?? [])[$through->field]
            ?? ($before->find($o->kind, $o->uid) ?? $after->find($o->kind, $o->uid))?->fields()[$through->field] ?? null;
        $project = is_string($activity) ? $after->projectOf($activity) : null;

        return $project === null ? []
            : [['project' => $project, 'revision' => $revisions[$project], 'kind' => EntityKind::Activity,
                'uid' => $activity, 'verb' => 'update', 'fields' => [$o->kind->value]]];
    }

    /**
     * @return list<string> uids of the projects whose object an operation alters (a handover shows at both ends), {@see
     *     News::ENTERPRISE} for the enterprise
     */
    public static function owners(Operation $o, Plan $before, Plan $after): array
    {
        if ($o->kind->entry()->owner === Owner::Enterprise) {
            return [News::ENTERPRISE];
        }
        $owners = [];
        foreach ([$before, $after] as $plan) {
            $owners[(string) $plan->ownerOf($o->kind, $o->uid)] = true;
            $entity = $plan->find($o->kind, $o->uid);
            if ($entity instanceof Link) {
                $owners[(string) $plan->projectOf($entity->from)] = true;
            }
        }
        unset($owners['']);

        return array_map(strval(...), array_keys($owners));
    }

    /**
     * A project's revision rises when one of its objects or results was changed, its input revision only with its objects.
     *
     * @param  array<string, true>  $own  uids of projects with changed objects
     * @param  array<string, true>  $computed  uids of projects with changed results
     * @param  array<string, int>  $loaded
     * @param  bool  $shapes  something of the enterprise that dates follow from was changed
     * @return array<string, int> uid => new revision
     */
    public static function revise(array $own, array $computed, array $loaded, bool $shapes = false): array
    {
        $revisions = [];
        if (isset($own[News::ENTERPRISE])) {
            $revisions[News::ENTERPRISE] = Enterprise::raise($shapes);
            unset($own[News::ENTERPRISE]);
        }
        $uids = array_map(strval(...), array_keys($own + $computed));
        foreach ($uids as $uid) {
            $revisions[$uid] = ($loaded[$uid] ?? 0) + 1;
        }
        DB::table('projects')->whereIn('uid', $uids)->increment('revision');
        DB::table('projects')->whereIn('uid', array_map(strval(...), array_keys($own)))->increment('input_revision');

        return $revisions;
    }
}

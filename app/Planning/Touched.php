<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Enterprise;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Catalogue;
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
     * Objects that no operation names and that yet belong elsewhere now, because the activity that they stand on or join came to
     * another project.
     *
     * @param  list<Operation>  $operations  as applied
     * @return list<array{EntityKind, string}> kind and uid
     */
    public static function along(array $operations, Plan $after): array
    {
        $moved = $named = $along = [];
        foreach ($operations as $o) {
            $named[$o->kind->value][$o->uid] = true;
            if ($o->kind === EntityKind::Activity && $o->verb === Verb::Update && isset($o->after['project'])) {
                $moved[$o->uid] = true;
            }
        }
        foreach ($moved === [] ? [] : EntityKind::cases() as $kind) {
            if ($kind->entry()->ownedThrough?->to !== EntityKind::Activity) {
                continue;
            }
            foreach (array_diff_key($after->all($kind), $named[$kind->value] ?? []) as $uid => $entity) {
                foreach ($kind->entry()->references as $reference) {
                    $to = Catalogue::value($entity, $reference->field);
                    if ($reference->to === EntityKind::Activity && is_string($to) && isset($moved[$to])) {
                        $along[$uid] = [$kind, (string) $uid];
                    }
                }
            }
        }

        return array_values($along);
    }

    /**
     * @return list<string> uids of the projects whose object an operation alters (a handover shows at both ends), {@see
     *     News::ENTERPRISE} for the enterprise
     */
    public static function owners(EntityKind $kind, string $uid, Plan $before, Plan $after): array
    {
        return $kind->entry()->owner === Owner::Enterprise ? [News::ENTERPRISE]
            : array_map(strval(...), array_keys(self::ownersIn($kind, $uid, $before) + self::ownersIn($kind, $uid, $after)));
    }

    /**
     * What an object means as news of each of those projects: for one that it left, it is gone.
     *
     * @param  list<string>  $fields
     * @param  array<string, int>  $revisions
     * @return list<array{project: string, revision: int, kind: EntityKind, uid: string, verb: string, fields: list<string>}>
     */
    public static function news(EntityKind $kind, string $uid, Verb $verb, array $fields, Plan $before, Plan $after,
        array $revisions): array
    {
        $stays = self::ownersIn($kind, $uid, $after);

        return array_map(static fn (string $project): array => ['project' => $project, 'revision' => $revisions[$project], 'kind' => $kind,
            'uid' => $uid, 'fields' => $fields,
            'verb' => $stays === [] || isset($stays[$project]) ? $verb->value : Verb::Delete->value],
            self::owners($kind, $uid, $before, $after));
    }

    /** @return array<string, true> by uid */
    private static function ownersIn(EntityKind $kind, string $uid, Plan $plan): array
    {
        $owners = [(string) $plan->ownerOf($kind, $uid) => true];
        $entity = $plan->find($kind, $uid);
        if ($entity instanceof Link) {
            $owners[(string) $plan->projectOf($entity->from)] = true;
        }

        return array_diff_key($owners, ['' => true]);
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
        $earlier = self::earlier(array_values(array_diff($uids, array_map(strval(...), array_keys($loaded)))));
        foreach ($uids as $uid) {
            $revisions[$uid] = ($loaded[$uid] ?? $earlier[$uid] ?? 0) + 1;
        }
        DB::table('projects')->whereIn('uid', $uids)->increment('revision');
        DB::table('projects')->whereIn('uid', array_map(strval(...), array_keys($own)))->increment('input_revision');

        return $revisions;
    }

    /**
     * Projects that come back go on where they were: what happened to them before is no news of what they are now.
     *
     * @param  list<string>  $made  uids of projects that were just made
     * @return array<string, int> uid => revision at its end, of those that were there before
     */
    private static function earlier(array $made): array
    {
        /** @var array<string, int> $revisions */
        $revisions = $made === [] ? [] : DB::table('change_set_projects')->whereIn('project_uid', $made)->groupBy('project_uid')
            ->selectRaw('project_uid, MAX(revision) AS revision')->pluck('revision', 'project_uid')->all();
        foreach ($revisions as $uid => $revision) {
            DB::table('projects')->where('uid', $uid)->update(['revision' => $revision]);
        }

        return $revisions;
    }
}

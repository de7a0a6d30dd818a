<?php

declare(strict_types=1);

namespace App\Baselines;

use App\Access\Reach;
use App\Planning\Committed;
use App\Planning\Follower;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\Uid;

/**
 * Baselines that came with a file wait with its proposal and are kept when their project is made or updated. They are records beside the
 * plan: an undo leaves them, so that doing it again finds them.
 *
 * @phpstan-type Row list<string|int>
 */
final class Imported implements Follower
{
    /**
     * As they wait with a proposal.
     *
     * @param  array<string, string>  $uids  in the file => here
     * @return array<string, mixed>
     */
    public static function packed(Baseline $baseline, bool $current, array $uids): array
    {
        /** @param  array<string, BaselineRow>  $list */
        $rows = static function (array $list) use ($uids): array {
            $packed = [];
            foreach ($list as $uid => $row) {
                $packed[$uids[$uid] ?? $uid] = $row instanceof BaselineRow ? array_values(get_object_vars($row)) : [];
            }

            return $packed;
        };

        return ['uid' => $baseline->uid, 'project' => $uids[$baseline->project] ?? '', 'name' => $baseline->name,
            'taken' => $baseline->taken, 'current' => $current,
            'total' => $baseline->total === null ? null : array_values(get_object_vars($baseline->total)),
            'activities' => $rows($baseline->activities), 'wbs' => $rows($baseline->wbs)];
    }

    /** Keeps those of projects that are there and have none like it yet. */
    public function follow(Committed $change): void
    {
        [$proposal, $user] = [$change->request->proposal, $change->by];
        /** @var list<array{uid?: string, project: string, name: string, taken: int, current: bool, total: Row|null,
         *     activities: array<string, Row>, wbs: array<string, Row>}> $waiting */
        $waiting = $proposal->baselines ?? [];
        if ($waiting === []) {
            return;
        }
        $made = [];
        foreach ($change->operations as $o) {
            if ($o->kind === EntityKind::Project && $o->verb === Verb::Create) {
                $made[$o->uid] = true;
            }
        }
        $reach = Reach::of($user);
        /** @var array<string, int> $branches */
        $branches = DB::table('projects')->whereIn('uid', array_column($waiting, 'project'))->pluck('branch_id', 'uid')->all();
        /** @phpstan-ignore argument.type */
        $row = static fn (array $r): BaselineRow => new BaselineRow(...$r);
        foreach ($waiting as $b) {
            $project = $b['project'];
            $isMade = isset($made[$project]);
            if (! $isMade && (! isset($branches[$project]) || ! $reach->may(Role::Planner, $branches[$project]))) {
                continue; // not taken yet, or gone
            }
            if (self::isThere($project, $b['name'], $b['taken'])) {
                continue;
            }
            $uid = $b['uid'] ?? ''; // proposals of earlier versions have none
            $uid = Uid::isSound($uid) && DB::table('baselines')->where('uid', $uid)->doesntExist() ? $uid
                : (string) Str::ulid();
            BaselineStore::save(new Baseline($uid, $project, $b['name'], $b['taken'],
                $b['total'] === null ? null : $row($b['total']), array_map($row, $b['activities']), array_map($row, $b['wbs'])),
                // which one counts is decided here
                $user, $b['current'] && ($isMade || BaselineStore::current($project) === null));
        }
    }

    /** Baselines never change: one of the same name that was taken at the same moment is the same. */
    public static function isThere(string $project, string $name, int $taken): bool
    {
        return DB::table('baselines')->where('project_uid', $project)->where('name', $name)->where('taken', $taken)->exists();
    }

    /**
     * All baselines of projects, for a file.
     *
     * @param  list<string>  $projects  uids
     * @return list<array{Baseline, bool}> with whether it is the current one
     */
    public static function of(array $projects): array
    {
        /** @var list<array{Baseline, bool}> */
        return DB::table('baselines')->whereIn('project_uid', $projects)->orderBy('id')->get(['uid', 'current'])
            ->map(static function (object $b): array {
                /** @var object{uid: string, current: int} $b */
                return [BaselineStore::load($b->uid), (bool) $b->current];
            })->all();
    }
}

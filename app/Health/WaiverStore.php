<?php

declare(strict_types=1);

namespace App\Health;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Health\Check;

/** Activities that a check found and that somebody left as they are, with the reason. Records beside the plan. */
final class WaiverStore
{
    /**
     * @param  list<int>  $projects  ids of those that the activities lie in now
     * @return array<string, array<string, array<string, array{activity: string, reason: string, author: string}>>> project uid => check =>
     *     activity uid => waiver
     */
    public static function of(array $projects): array
    {
        $waivers = [];
        foreach (DB::table('waivers')->join('activities', 'activities.uid', '=', 'waivers.activity')
            ->join('projects', 'projects.id', '=', 'activities.project_id')->whereIn('projects.id', $projects)
            ->orderBy('waivers.id')->get(['projects.uid as project', 'check', 'activity', 'reason', 'author']) as $w) {
            /** @var object{project: string, check: string, activity: string, reason: string, author: string} $w */
            $waivers[$w->project][$w->check][$w->activity] = ['activity' => $w->activity, 'reason' => $w->reason, 'author' => $w->author];
        }

        return $waivers;
    }

    /** @param  list<string>  $activities  uids; those of other projects are passed over */
    public static function set(int $project, Check $check, array $activities, string $reason, string $author): void
    {
        /** @var list<string> $own */
        $own = DB::table('activities')->where('project_id', $project)->whereIn('uid', $activities)->pluck('uid')->all();
        DB::transaction(static function () use ($check, $own, $reason, $author): void {
            DB::table('waivers')->where('check', $check->value)->whereIn('activity', $own)->delete();
            if ($reason !== '') {
                DB::table('waivers')->insert(array_map(static fn (string $uid): array => ['check' => $check->value,
                    'activity' => $uid, 'reason' => $reason, 'author' => $author, 'created_at' => now()], $own));
            }
        }, 5);
    }
}

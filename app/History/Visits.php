<?php

declare(strict_types=1);

namespace App\History;

use App\Models\User;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/**
 * When a user last looked at a project. A visit lasts as long as there are no thirty minutes between two looks; what changed since
 * the last visit is what changed since the one before this one ended.
 */
final class Visits
{
    private const APART = 30 * 60;

    /** looks are written down at most this often, in seconds */
    private const GRAIN = 60;

    /** @param  list<int>  $projects  ids */
    public static function look(User $user, array $projects): void
    {
        $now = now();
        $seen = DB::table('visits')->where('user_id', $user->id)->whereIn('project_id', $projects)->pluck('seen_at', 'project_id')->all();
        $begun = $going = [];
        foreach ($projects as $project) {
            $last = isset($seen[$project]) && is_string($seen[$project]) ? Carbon::parse($seen[$project]) : null;
            $ago = $last === null ? null : (int) abs($now->diffInSeconds($last));
            if ($ago !== null && $ago < self::GRAIN) {
                continue;
            }
            $row = ['user_id' => $user->id, 'project_id' => $project, 'seen_at' => $now, 'before_at' => $last ?? $now];
            $ago === null || $ago > self::APART ? $begun[] = $row : $going[] = $row;
        }
        $begun === [] ?: DB::table('visits')->upsert($begun, ['user_id', 'project_id'], ['seen_at', 'before_at']);
        $going === [] ?: DB::table('visits')->upsert($going, ['user_id', 'project_id'], ['seen_at']);
    }

    /** @return array<int, string> project id => when the visit before this one ended */
    public static function before(User $user): array
    {
        /** @var array<int, string> */
        return DB::table('visits')->where('user_id', $user->id)->pluck('before_at', 'project_id')->all();
    }
}

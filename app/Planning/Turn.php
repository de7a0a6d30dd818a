<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;

/**
 * Whoever wants to change the same part of the network waits here for their turn, instead of calculating in vain while
 * somebody else writes. Nothing rests on it: what is written is decided by revisions compared under row locks.
 */
final class Turn
{
    private const SECONDS = 20;

    /**
     * @template T
     *
     * @param  list<int>  $projects  ids of the part
     * @param  callable(): T  $work
     * @return T
     */
    public static function in(array $projects, callable $work): mixed
    {
        if ($projects === []) {
            return $work();
        }
        $name = mb_substr('reihe '.DB::connection()->getDatabaseName(), 0, 40).' '.min($projects);
        DB::select('SELECT GET_LOCK(?, ?)', [$name, self::SECONDS]);
        try {
            return $work();
        } finally {
            DB::select('SELECT RELEASE_LOCK(?)', [$name]);
        }
    }
}

<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;

/**
 * Whoever wants to change the same part of the network, or calculate it because nobody kept it, waits here for their turn
 * instead of doing in vain what somebody else is doing. Nothing rests on it: what is written is decided by revisions
 * compared under row locks.
 */
final class Turn
{
    private const SECONDS = 20;

    /**
     * @param  string|null  $name  of a lock of the database's session; null when there was nothing to wait for
     * @param  bool  $waited  somebody else had it, so others may be waiting now
     */
    private function __construct(private readonly ?string $name, private readonly bool $waited = false)
    {
    }

    /** @param  list<int>  $projects  ids of the part */
    public static function take(array $projects): self
    {
        if ($projects === []) {
            return new self(null);
        }
        $name = mb_substr('reihe '.DB::connection()->getDatabaseName(), 0, 40).' '.min($projects);
        try {
            $waited = DB::scalar('SELECT GET_LOCK(?, 0)', [$name]) !== 1;
            $waited && DB::select('SELECT GET_LOCK(?, ?)', [$name, self::SECONDS]);
        } catch (QueryException) {
            return new self(null); // a cluster of databases has no such locks
        }

        return new self($name, $waited);
    }

    public function end(): void
    {
        if ($this->name !== null) {
            DB::select('SELECT RELEASE_LOCK(?)', [$this->name]);
        }
    }

    /**
     * Carries out the work once the answer is on its way, and ends the turn then; at once where somebody may be waiting.
     *
     * @param  callable(): void  $work
     */
    public function endAfter(callable $work): void
    {
        $both = function () use ($work): void {
            try {
                $work();
            } finally {
                $this->end();
            }
        };
        app()->runningInConsole() || $this->waited ? $both() : app()->terminating($both);
    }
}

<?php

declare(strict_types=1);

namespace App\Jobs;

use Illuminate\Database\Connection;
use Illuminate\Support\Facades\DB;

/** Tells how far work is, and hears when it is to stop. Written past the transaction in which the work may be. */
final class Progress
{
    private const EVERY = 0.3;

    private float $told = 0.0;

    private string $step = '';

    public function __construct(private readonly string $job)
    {
    }

    /**
     * @param  string  $step  reading, comparing, calculating, levelling, writing
     * @param  int  $total  0 where it is not known
     *
     * @throws Cancelled
     */
    public function tell(string $step, int $done = 0, int $total = 0): void
    {
        $now = microtime(true);
        if ($step === $this->step && $now - $this->told < self::EVERY) {
            return;
        }
        [$this->step, $this->told] = [$step, $now];
        $row = self::beside()->table('background_jobs')->where('uid', $this->job);
        $row->clone()->update(['step' => $step, 'done' => $done, 'total' => $total, 'seen_at' => now()]);
        if ((bool) $row->value('cancel')) {
            throw new Cancelled;
        }
    }

    /** A connection of its own; the tests are inside one transaction and stay there. */
    private static function beside(): Connection
    {
        if (app()->runningUnitTests()) {
            return DB::connection();
        }
        config(['database.connections.beside' => config('database.connections.'.DB::getDefaultConnection())]);

        return DB::connection('beside');
    }
}

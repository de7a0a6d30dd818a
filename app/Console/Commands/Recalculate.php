<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Database\Enterprise;
use App\Planning\Planning;
use App\Planning\PlanStore;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** Calculates everything again and writes results that differ from the stored ones: after an update that brought new ones. */
final class Recalculate extends Command
{
    protected $signature = 'reihe:recalculate';

    protected $description = 'Calculate all projects again and write the results that differ';

    public function handle(): int
    {
        Enterprise::renew();
        $changed = 0;
        /** @var list<int> $open */
        $open = DB::table('projects')->orderBy('id')->pluck('id')->all();
        while ($open !== []) {
            $group = PlanStore::connected([$open[0]]);
            $changed += Planning::recalculate($group);
            $open = array_values(array_diff($open, $group));
        }
        $this->info("{$changed} results were brought up to date.");

        return self::SUCCESS;
    }
}

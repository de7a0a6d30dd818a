<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Planning\Connected;
use App\Planning\PlanStore;
use App\Planning\PlanWriter;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** Calculates everything again and writes results that differ from the stored ones: after an update that brought new ones. */
final class Recalculate extends Command
{
    protected $signature = 'reihe:recalculate';

    protected $description = 'Calculate all projects again and write the results that differ';

    public function handle(): int
    {
        $changed = 0;
        /** @var list<int> $open */
        $open = DB::table('projects')->orderBy('id')->pluck('id')->all();
        while ($open !== []) {
            $group = PlanStore::connected([$open[0]]);
            $changed += DB::transaction(static function () use ($group): int {
                DB::table('projects')->whereIn('id', $group)->orderBy('id')->lockForUpdate()->pluck('id');
                $connected = Connected::with($group);

                return array_sum(array_map(count(...), (new PlanWriter($connected->loaded->plan, $connected->loaded->ids))->results($connected->schedule, $connected->loaded->results)));
            });
            $open = array_values(array_diff($open, $group));
        }
        $this->info("{$changed} results were brought up to date.");

        return self::SUCCESS;
    }
}

<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Baselines\BaselineStore;
use App\Database\Enterprise;
use App\Demo\DemoSources;
use App\Demo\DemoUsers;
use App\Demo\Varnsund;
use App\Models\User;
use App\Planning\ChangeRequest;
use App\Planning\Planning;
use Carbon\CarbonImmutable;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Fills an empty database: the Varnsund demo, or just a root branch, a calendar and an administrator. */
final class Demo extends Command
{
    private const FIRST = 'admin@reihe.example';

    protected $signature = 'reihe:demo {size=standard : standard, small, large or none} {--projects= : for large, 60 by default} '
        .'{--activities= : '
        .'for large, 20000 by default} {--status= : status date, today by default}';

    protected $description = 'Fill an empty database with the demo, or with the bare necessities (none)';

    public function handle(): int
    {
        if (User::query()->exists()) {
            $this->info('The database is in use; nothing was added.');

            return self::SUCCESS;
        }
        $size = $this->argument('size');
        if (! in_array($size, ['standard', 'small', 'large', 'none'], true)) {
            $this->error('The size is standard, small, large or none.');

            return self::INVALID;
        }

        // all of it or nothing: cut off, it is simply loaded again
        return DB::transaction(fn (): int => $size === 'none' ? $this->bare() : $this->load($size));
    }

    private function load(string $size): int
    {
        Enterprise::found('branch-varnsund', 'Varnsund Ferries');
        $admin = DemoUsers::administrator();
        $status = $this->option('status');
        $day = is_string($status) && $status !== '' ? CarbonImmutable::parse($status) : CarbonImmutable::today();
        $status = Varnsund::statusOn(Instant::parse($day->format('Y-m-d').'T00:00'));
        $demo = $size === 'large' ? Varnsund::large($status, (int) ($this->option('projects') ?: 60),
            (int) ($this->option('activities') ?: 20_000)) : ($size === 'standard' ? Varnsund::standard($status) : Varnsund::plan($status));
        $plan = $demo->plan;
        (new Planning($admin))->commit(new ChangeRequest(self::operations($plan), source: 'demo', reason: 'Varnsund Ferries'));
        DemoUsers::others();
        if ($size !== 'large') {
            self::baselines($demo->ideal, $admin);
        }
        if ($size === 'standard') {
            DemoSources::make($admin);
        }
        $this->info(sprintf('Demo loaded: %d projects, %d activities, %d links.', count($plan->projects), count($plan->activities),
            count($plan->links)));

        return self::SUCCESS;
    }

    /** What was planned, as the current baseline of every project. */
    private static function baselines(Schedule $ideal, User $author): void
    {
        $rollUp = RollUp::of($ideal);
        foreach ($ideal->plan->projects as $uid => $project) {
            BaselineStore::save(Baseline::take($ideal, $rollUp, $uid, (string) Str::ulid(), 'Approved plan', $project->start), $author,
                true);
        }
    }

    private function bare(): int
    {
        $root = Enterprise::found((string) Str::ulid(), 'Enterprise');
        // nobody knows this one: bin/start, on a terminal, and bin/account give the first that works
        $admin = User::query()->create(['name' => 'Administrator', 'email' => self::FIRST, 'password' => Str::random(40),
            'must_change' => true]);
        DB::table('grants')->insert(['user_id' => $admin->id, 'branch_id' => $root, 'role' => 'administrator']);
        (new Planning($admin))->commit(new ChangeRequest(
            [Operation::create(EntityKind::Calendar, (string) Str::ulid(), ['key' => 'OFFICE', 'name' => 'Office', 'minutesPerDay' => 480,
                'week' => array_fill_keys([1, 2, 3, 4, 5], '08:00-12:00 13:00-17:00')])], source: 'demo', reason: 'first calendar'));
        $this->info('An empty enterprise with the administrator '.self::FIRST.'; bin/account '.self::FIRST.' gives a first password.');

        return self::SUCCESS;
    }

    /** @return list<Operation> */
    public static function operations(Plan $plan): array
    {
        $operations = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($plan->all($kind) as $uid => $entity) {
                if ($kind !== EntityKind::Branch || $entity->fields()['parent'] !== null) {
                    $operations[] = Operation::create($kind, (string) $uid, $entity->fields());
                }
            }
        }

        return $operations;
    }
}

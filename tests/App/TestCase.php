<?php

declare(strict_types=1);

namespace Tests\App;

use App\Database\Rows;
use App\Models\User;
use App\Planning\PlanStore;
use App\Planning\Results as StoredResults;
use Illuminate\Contracts\Auth\Authenticatable;
use Illuminate\Foundation\Testing\RefreshDatabase;
use Illuminate\Foundation\Testing\TestCase as LaravelTestCase;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use Illuminate\Testing\TestResponse;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Formats\Tests\Results;

/** Tests of the application on MariaDB, each in a transaction of its own, on a demo that is loaded once. */
abstract class TestCase extends LaravelTestCase
{
    use RefreshDatabase;

    protected function setUp(): void
    {
        parent::setUp();
        $this->travelTo('2026-11-25 12:00:00'); // no test reads the clock
        $this->withHeader('Origin', 'http://127.0.0.1');
    }

    /** Once, and again after a test whose changes of tables ended its transaction. */
    protected function migrateDatabases(): void
    {
        $this->artisan('migrate:fresh')->assertSuccessful();
        $this->travelTo('2026-11-25 12:00:00');
        $this->artisan('reihe:demo', ['size' => 'small', '--status' => '2026-11-25'])->assertSuccessful();
    }

    /** Each request gets controllers of its own, as on the server: the framework keeps them while it runs. */
    public function call($method, $uri, $parameters = [], $cookies = [], $files = [], $server = [], $content = null)
    {
        foreach (Route::getRoutes() as $route) {
            $route->flushController();
        }

        return parent::call($method, $uri, $parameters, $cookies, $files, $server, $content);
    }

    /** Another person comes with a session of their own. */
    public function actingAs(Authenticatable $user, $guard = null)
    {
        $this->flushSession();
        $this->app['auth']->forgetGuards();

        return parent::actingAs($user, $guard);
    }

    protected function person(string $name): User
    {
        return User::query()->where('email', "{$name}@varnsund.example")->firstOrFail();
    }

    protected function branch(string $name): string
    {
        $uid = DB::table('branches')->where('name', $name)->value('uid');

        return is_string($uid) ? $uid : self::fail("there is no branch {$name}");
    }

    /** The number of its row, for tables that the API does not show. */
    protected function branchId(string $name): int
    {
        return (int) DB::table('branches')->where('uid', $this->branch($name))->value('id');
    }

    /** A user with one grant, or none. */
    protected function somebody(?string $role, string $branch = 'Varnsund Ferries'): User
    {
        $user = User::query()->create(['name' => 'Somebody', 'email' => uniqid().'@example.org', 'password' => 'secret']);
        if ($role !== null) {
            DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => $this->branchId($branch), 'role' => $role]);
        }

        return $user;
    }

    /**
     * @param  list<array<string, mixed>>  $operations
     * @param  array<string, mixed>  $more
     * @return TestResponse<\Illuminate\Http\JsonResponse>
     */
    protected function change(array $operations, array $more = [], string $board = ''): TestResponse
    {
        return $this->postJson('/api/v1/changes'.($board === '' ? '' : "?board={$board}"), ['operations' => $operations] + $more);
    }

    /**
     * @param  array<string, mixed>  $after
     * @return array<string, mixed>
     */
    /** @param  string  $since  pairs `uid:revision` with commas between */
    protected function news(string $projects, string $since): TestResponse
    {
        $known = [];
        foreach (array_filter(explode(',', $since)) as $pair) {
            [$uid, $revision] = explode(':', $pair) + ['', ''];
            $known[$uid] = (int) $revision;
        }

        return $this->postJson('/api/v1/board/news', ['projects' => explode(',', $projects), 'since' => $known]);
    }

    protected static function made(string $kind, string $uid, array $after): array
    {
        return ['verb' => 'create', 'kind' => $kind, 'uid' => $uid, 'after' => $after];
    }

    /**
     * @param  array<string, mixed>  $after
     * @return array<string, mixed>
     */
    protected static function update(string $kind, string $uid, array $after): array
    {
        return ['verb' => 'update', 'kind' => $kind, 'uid' => $uid, 'after' => $after];
    }

    /** @return array<string, mixed> */
    protected static function gone(string $kind, string $uid): array
    {
        return ['verb' => 'delete', 'kind' => $kind, 'uid' => $uid];
    }

    /** Stored results must be what a calculation of everything at once gives. */
    protected function assertResultsAreTrue(): Schedule
    {
        /** @var list<int> $all */
        $all = DB::table('projects')->pluck('id')->all();
        [$plan] = PlanStore::load($all);
        $results = StoredResults::load(Rows::in($all));
        $schedule = Schedule::of($plan);
        $work = AssignedWork::of($plan);
        $compared = 0;
        foreach ($results['activity'] as $uid => $row) {
            $a = $schedule->activity($uid);
            self::assertSame([$a->earlyStart, $a->earlyFinish, $a->lateStart, $a->lateFinish, $a->totalFloat, $a->freeFloat,
                (int) $a->critical, (int) $a->nearCritical, $schedule->plan->activities[$uid]->percent($work[$uid] ?? new AssignedWork),
                $schedule->dates->begin[$schedule->network->node[$uid]]],
                $row, $uid);
            $compared++;
        }
        self::assertSame(count($plan->activities), $compared);
        self::assertCount(count($plan->links), $results['link']);
        foreach ($schedule->network->linkUid as $k => $uid) {
            $handover = Handover::isOne($schedule->network, $k) ? Handover::of($schedule->network, $schedule->dates, $k) : null;
            self::assertSame($handover === null ? null : [$handover->forecast, $handover->margin, $handover->state->value],
                $results['handover'][$uid] ?? null, $uid);
        }
        foreach (RollUp::of($schedule)->projects as $uid => $r) {
            self::assertSame([$r->start, $r->finish, $r->duration, $r->totalFloat, (int) $r->critical, $r->planned, $r->done,
                (int) $r->finished, $r->margin, $r->work, $r->cost], $results['project'][$uid], $uid);
        }

        return $schedule;
    }

    /** @return array<string, mixed> all results of all projects */
    protected function everything(): array
    {
        return Results::of($this->assertResultsAreTrue());
    }

    /** Everything that is stored. */
    protected function plan(): Plan
    {
        /** @var list<int> $ids */
        $ids = DB::table('projects')->pluck('id')->all();

        return PlanStore::load($ids)[0];
    }

    /** Every field of every object is the same, and no natural key was left parked. */
    protected function assertSamePlan(Plan $expected, Plan $found): void
    {
        foreach (EntityKind::cases() as $kind) {
            $written = static function (Plan $plan) use ($kind): array {
                $list = array_map(static fn ($e): array => $e->fields(), $plan->all($kind));
                ksort($list);

                return $list;
            };
            self::assertEquals($written($expected), $written($found), $kind->value);
        }
        self::assertSame(0, DB::table('activities')->where('parked', '!=', 0)->count() + DB::table('projects')->where('parked', '!=', 0)
            ->count()
            + DB::table('links')->where('parked', '!=', 0)->count() + DB::table('calendars')->where('parked', '!=', 0)->count());
    }
}

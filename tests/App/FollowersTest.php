<?php

declare(strict_types=1);

namespace Tests\App;

use App\Planning\Committed;
use App\Planning\Follower;
use App\Planning\Followers;
use Illuminate\Support\Facades\DB;

/** What follows from a change is written with it, or nothing is. */
final class FollowersTest extends TestCase
{
    public function test_every_follower_is_told(): void
    {
        $there = [];
        foreach (glob(app_path('*/*.php')) ?: [] as $file) {
            $class = 'App\\'.strtr(substr($file, strlen(app_path()) + 1, -4), '/', '\\');
            ! is_subclass_of($class, Follower::class) ?: $there[] = $class;
        }
        $told = array_map(static fn (Follower $f): string => $f::class, app(Followers::class)->followers);
        self::assertEqualsCanonicalizing($there, $told);
        self::assertGreaterThan(5, count($told));
    }

    public function test_whichever_fails_nothing_of_the_change_stays(): void
    {
        $this->actingAs($this->person('ilse'));
        $all = app(Followers::class)->followers;
        $before = $this->plan();
        $tables = ['change_sets', 'change_set_projects', 'plan_changes', 'date_moves', 'notices', 'owners'];
        $rows = static fn (): array => array_map(static fn (string $t): int => DB::table($t)->count(), $tables);
        $counts = $rows();
        $breaks = new class implements Follower
        {
            public function follow(Committed $change): void
            {
                throw new \RuntimeException('the power is cut');
            }
        };
        for ($at = 0; $at <= count($all); $at++) {
            app()->instance(Followers::class, new Followers([...array_slice($all, 0, $at), $breaks, ...array_slice($all, $at)]));
            $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 9600]),
                self::made('remark', 'r', ['project' => 'prj-GRID', 'activity' => 'act-grid-ca-0050', 'text' => '@Aino Rautio look']),
                self::made('codeSet', 's', ['scope' => 'project', 'key' => 'S', 'name' => 'S'])], ['changeSet' => 'once'])
                ->assertStatus(500);
            self::assertSame($counts, $rows(), "after {$at}");
            $this->assertSamePlan($before, $this->plan());
        }
        app()->instance(Followers::class, new Followers($all));
        $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 9600])], ['changeSet' => 'once'])->assertOk();
        $this->assertResultsAreTrue();
    }
}

<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;

/** Boards and bands say whose days they count in, whatever calendars meet there. */
final class DayLengthsTest extends TestCase
{
    public function test_far_ends_and_bands_of_activities_with_longer_days(): void
    {
        $this->actingAs($this->person('ilse'));
        $start = ['start' => '2027-01-04T06:00', 'branch' => $this->branch('Archive')];
        $this->change([
            self::made('calendar', 'long', ['key' => 'LONG', 'name' => 'Two shifts', 'minutesPerDay' => 960,
                'week' => array_fill_keys(range(1, 5), '06:00-22:00')]),
            self::made('project', 'one', ['key' => 'ONE', 'name' => 'One', 'calendar' => 'long'] + $start),
            self::made('project', 'two', ['key' => 'TWO', 'name' => 'Two', 'calendar' => (string) DB::table('calendars')
                ->where('key', 'OFFICE')->value('uid')] + $start),
            self::made('activity', 'a', ['project' => 'one', 'code' => 'A', 'name' => 'A', 'duration' => 960]),
            self::made('activity', 'k', ['project' => 'one', 'code' => 'K', 'name' => 'K', 'duration' => 5 * 960]),
            self::made('activity', 'b', ['project' => 'two', 'code' => 'B', 'name' => 'B', 'duration' => 480]),
            self::made('link', 'ab', ['from' => 'a', 'to' => 'b']),
        ])->assertOk();
        foreach (['', '?draft='.$this->postJson('/api/v1/drafts', ['name' => 'd'])->json('uid')] as $n => $draft) {
            $at = $n === 0 ? '/api/v1/board?projects=TWO' : "/api/v1/drafts/{$this->uid($draft)}/board?projects=TWO";
            $answer = $this->getJson($at)->assertOk();
            $far = $answer->json('far') ?? $answer->json('board.far');
            self::assertSame([['a'], [960]], [$far['uid'], $far['minutesPerDay']], $at);
        }
        $this->change([self::gone('link', 'ab')])->assertOk();
        // 4 d of its own on the row, 4 d in the band of all rows
        self::assertSame(4 * 960, (int) DB::table('activity_dates as d')->join('activities as a', 'a.id', '=', 'd.activity_id')
            ->where('a.uid', 'a')->value('total_float'));
        $view = rawurlencode((string) json_encode(['group' => ['project'], 'filter' => null]));
        $bands = $this->getJson("/api/v1/board/arrange?projects=ONE&view={$view}")->assertOk()->json('bands');
        self::assertSame([0], array_column($bands, 'totalFloat'), 'K is critical');
        $this->change([self::gone('activity', 'k'), self::update('project', 'one', ['deadline' => '2027-01-08T22:00',
            'floatMeasure' => 'deadline'])])->assertOk();
        $bands = $this->getJson("/api/v1/board/arrange?projects=ONE&view={$view}")->assertOk()->json('bands');
        self::assertSame([4 * 480], array_column($bands, 'totalFloat'));
        self::assertSame(4 * 960, (int) DB::table('project_dates as d')->join('projects as p', 'p.id', '=', 'd.project_id')
            ->where('p.uid', 'one')->value('total_float'));
        $this->assertResultsAreTrue();
    }

    private function uid(string $draft): string
    {
        return substr($draft, strlen('?draft='));
    }
}

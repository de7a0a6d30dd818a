<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Plan;

/** Natural keys are not identities: whoever takes whose key, rows stay what they are. */
final class NaturalKeysTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    /** @return iterable<string, array{list<array<string, mixed>>}> operations that hand keys around */
    public static function handing(): iterable
    {
        $set = static fn (string $kind, string $uid, array $after): array => self::update($kind, $uid, $after);
        $a = static fn (string $code): string => 'act-grid-pe-'.$code;
        yield 'activity codes exchanged' => [[$set('activity', $a('0010'), ['code' => 'GRID-PE-0020']),
            $set('activity', $a('0020'), ['code' => 'GRID-PE-0010'])]];
        yield 'activity codes in a ring' => [[$set('activity', $a('0010'), ['code' => 'GRID-PE-0020']),
            $set('activity', $a('0020'), ['code' => 'GRID-PE-0030']), $set('activity', $a('0030'), ['code' => 'GRID-PE-0010'])]];
        yield 'activity codes shifted' => [[$set('activity', $a('0010'), ['code' => 'GRID-PE-0020']),
            $set('activity', $a('0020'), ['code' => 'GRID-PE-0025'])]];
        yield 'activity code freed by deletion and taken' => [[['verb' => 'delete', 'kind' => 'activity', 'uid' => $a('0030')],
            ['verb' => 'create', 'kind' => 'activity', 'uid' => 'fresh',
                'after' => ['project' => 'prj-GRID', 'code' => 'GRID-PE-0030', 'duration' => 480]]]];
        yield 'activity code given up and taken by a new one' => [[$set('activity', $a('0010'), ['code' => 'OLD']),
            ['verb' => 'create', 'kind' => 'activity', 'uid' => 'fresh',
                'after' => ['project' => 'prj-GRID', 'code' => 'GRID-PE-0010', 'duration' => 480]]]];
        yield 'activity codes that differ in case and accents' => [[$set('activity', $a('0010'), ['code' => 'a']), $set('activity',
            $a('0020'), ['code' => 'A']),
            $set('activity', $a('0030'), ['code' => 'ä'])]];
        yield 'project keys exchanged' => [[$set('project', 'prj-GRID', ['key' => 'CREW']),
            $set('project', 'prj-CREW', ['key' => 'GRID'])]];
        yield 'project keys in a ring' => [[$set('project', 'prj-GRID', ['key' => 'CREW']), $set('project', 'prj-CREW', ['key' => 'TERN']),
            $set('project', 'prj-TERN', ['key' => 'GRID'])]];
        yield 'calendar keys exchanged' => [[$set('calendar', 'cal-office', ['key' => 'DOCK']),
            $set('calendar', 'cal-dock', ['key' => 'OFFICE'])]];
        yield 'calendar key in other case taken by a new one' => [[['verb' => 'create', 'kind' => 'calendar', 'uid' => 'fresh',
            'after' => ['key' => 'office', 'name' => 'x', 'week' => ['7' => '10:00-11:00']]]]];
        yield 'a calendar renamed, its key taken' => [[$set('calendar', 'cal-office', ['key' => 'BUREAU']),
            ['verb' => 'create', 'kind' => 'calendar', 'uid' => 'fresh',
                'after' => ['key' => 'OFFICE', 'name' => 'x', 'week' => ['7' => '10:00-11:00']]]]];
        yield 'branch names exchanged' => [[$set('branch', 'branch-shore', ['name' => 'Quays']),
            $set('branch', 'branch-quays', ['name' => 'Shore power'])]];
        yield 'branches exchange places, one above the other' => [[$set('branch', 'branch-vessel', ['parent' => 'branch-varnsund']),
            $set('branch', 'branch-fleet', ['parent' => 'branch-vessel'])]];
        yield 'branch name freed by deletion and taken' => [[['verb' => 'delete', 'kind' => 'branch', 'uid' => 'branch-quays'],
            ['verb' => 'create', 'kind' => 'branch', 'uid' => 'fresh', 'after' => ['parent' => 'branch-harbours', 'name' => 'Quays']]]];
        yield 'code set keys exchanged' => [[$set('codeSet', 'codeset-stage', ['key' => 'DISTRICT']),
            $set('codeSet', 'codeset-district', ['key' => 'STAGE'])]];
        yield 'entry keys in a ring' => [[$set('entry', 'entry-stage-build', ['key' => 'TRIAL']),
            $set('entry', 'entry-stage-trial', ['key' => 'DESIGN']), $set('entry', 'entry-stage-design', ['key' => 'BUILD'])]];
        yield 'an entry key in other case' => [[['verb' => 'create', 'kind' => 'entry', 'uid' => 'fresh',
            'after' => ['codeSet' => 'codeset-stage', 'key' => 'build', 'name' => 'build']]]];
        yield 'an entry moved to another set, with those below it' => [[['verb' => 'delete', 'kind' => 'coding',
            'uid' => 'coding-lyng-stage'],
            ['verb' => 'delete', 'kind' => 'coding', 'uid' => 'coding-gann-stage'],
            $set('entry', 'entry-stage-design', ['codeSet' => 'codeset-district']),
            $set('entry', 'entry-stage-design-concept', ['codeSet' => 'codeset-district']),
            $set('entry', 'entry-stage-design-detail', ['codeSet' => 'codeset-district'])]];
        yield 'a code set deleted with everything coded' => [[['verb' => 'delete', 'kind' => 'codeSet', 'uid' => 'codeset-district'],
            ...array_map(static fn (string $p): array => ['verb' => 'delete', 'kind' => 'coding', 'uid' => "coding-{$p}-district"],
                ['grid', 'ostv', 'lyng', 'tern', 'gann'])]];
        yield 'entries exchanged between two projects' => [[$set('coding', 'coding-grid-stage', ['entry' => 'entry-stage-design']),
            $set('coding', 'coding-gann-stage', ['entry' => 'entry-stage-build'])]];
        yield 'an element deleted, its activities saved' => [[$set('activity', $a('0010'), ['wbs' => null]), $set('activity',
            $a('0020'), ['wbs' => 'wbs-grid-ca']),
            ['verb' => 'delete', 'kind' => 'wbs', 'uid' => 'wbs-grid-pe']]];
        yield 'deleted and made again under the same uid' => [[['verb' => 'delete', 'kind' => 'activity', 'uid' => $a('0010')],
            ['verb' => 'create', 'kind' => 'activity', 'uid' => $a('0010'),
                'after' => ['project' => 'prj-GRID', 'code' => 'GRID-PE-0010', 'name' => 'Again', 'duration' => 960]]]];
    }

    /** @param  list<array<string, mixed>>  $operations */
    #[DataProvider('handing')]
    public function test_rows_are_what_the_core_makes_of_them_and_undo_restores_all(array $operations): void
    {
        $before = $this->plan();
        $expected = ChangeSet::apply($before, array_map(static fn (array $o): Operation => Operation::fromArray($o), $operations))->plan;
        $uid = $this->change($operations)->assertOk()->json('changeSet');
        $this->assertSamePlan($expected, $this->plan());
        $this->assertResultsAreTrue();
        $undo = $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk()->json('changeSet');
        $this->assertSamePlan($before, $this->plan());
        $this->postJson("/api/v1/changes/{$undo}/undo")->assertOk();
        $this->assertSamePlan($expected, $this->plan());
    }

    public function test_parallel_links_exchange_types_and_ends(): void
    {
        $this->change([
            ['verb' => 'create', 'kind' => 'link', 'uid' => 'one',
                'after' => ['from' => 'act-grid-pe-0010', 'to' => 'act-grid-st-0010', 'type' => 'SS', 'lag' => 1]],
            ['verb' => 'create', 'kind' => 'link', 'uid' => 'two',
                'after' => ['from' => 'act-grid-pe-0010', 'to' => 'act-grid-st-0010', 'type' => 'FF', 'lag' => 2]],
            ['verb' => 'create', 'kind' => 'link', 'uid' => 'three',
                'after' => ['from' => 'act-grid-pe-0020', 'to' => 'act-grid-st-0010', 'type' => 'SS', 'lag' => 3]],
        ])->assertOk();
        $this->change([self::update('link', 'one', ['type' => 'FF']), self::update('link', 'two', ['type' => 'SS'])])->assertOk();
        self::assertSame(['one' => ['FF', 1], 'two' => ['SS', 2]],
            array_map(fn ($l): array => [$l->type->value, $l->lag], array_intersect_key($this->plan()->links, ['one' => 0, 'two' => 0])));
        $this->change([self::update('link', 'two', ['from' => 'act-grid-pe-0020']),
            self::update('link', 'three', ['from' => 'act-grid-pe-0010'])])->assertOk();
        self::assertSame([2, 'act-grid-pe-0020'], [$this->plan()->links['two']->lag, $this->plan()->links['two']->from]);
        $this->change([self::update('link', 'one', ['type' => 'SS'])])->assertStatus(422);
        $this->assertResultsAreTrue();
    }

    public function test_a_planner_of_one_branch_cannot_touch_a_calendar_of_the_enterprise_by_its_key(): void
    {
        $this->actingAs($this->somebody('planner', 'Harbours'));
        $week = DB::table('calendars')->where('uid', 'cal-office')->value('week');
        foreach (['OFFICE', 'office', 'Öffice'] as $key) {
            $answer = $this->change([['verb' => 'create', 'kind' => 'calendar', 'uid' => "mine-{$key[0]}",
                'after' => ['key' => $key, 'name' => 'Mine', 'week' => ['7' => '10:00-11:00']]]]);
            self::assertSame($key === 'OFFICE' ? 422 : ($key === 'office' ? 200 : 422), $answer->status(), (string) $answer->getContent());
        }
        self::assertSame($week, DB::table('calendars')->where('uid', 'cal-office')->value('week'));
        $this->change([self::update('calendar', 'cal-office', ['name' => 'Mine'])])->assertStatus(403);
        $this->assertResultsAreTrue();
    }

    /** A tenth of the bar; REIHE_ROUNDS=250 runs 1 000. */
    #[TestWith([1])]
    #[TestWith([2])]
    #[TestWith([3])]
    #[TestWith([4])]
    public function test_random_exchanges(int $seed): void
    {
        $random = new Randomizer(new Mt19937($seed));
        $first = $this->plan();
        $done = [];
        $rounds = (int) (getenv('REIHE_ROUNDS') ?: 25);
        for ($round = 0; $round < $rounds; $round++) {
            $plan = $this->plan();
            $operations = $this->exchange($plan, $random, $round);
            $expected = ChangeSet::apply($plan, array_map(static fn (array $o): Operation => Operation::fromArray($o), $operations))->plan;
            $answer = $this->change($operations);
            if ($answer->status() === 422) {
                continue; // a loop, or a link twice
            }
            $done[] = $answer->assertOk()->json('changeSet');
            $this->assertSamePlan($expected, $this->plan());
        }
        self::assertGreaterThan($rounds / 2, count(array_filter($done)));
        $this->assertResultsAreTrue();
        $this->artisan('reihe:recalculate')->expectsOutput('0 results were brought up to date.')->assertSuccessful();
        foreach (array_reverse(array_filter($done)) as $uid) {
            $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        }
        $this->assertSamePlan($first, $this->plan());
    }

    /**
     * Some activities of a project hand their codes around, some are deleted, some are made with a code that was given up.
     *
     * @return list<array<string, mixed>>
     */
    private function exchange(Plan $plan, Randomizer $random, int $round): array
    {
        $keys = array_keys($plan->projects);
        $project = $keys[$random->getInt(0, count($keys) - 1)];
        $own = array_values(array_filter($plan->activities, static fn ($a): bool => $a->project === $project));
        $chosen = array_map(static fn (int $i) => $own[$i], (array) $random->pickArrayKeys($own, min(count($own), $random->getInt(2, 6))));
        $codes = $random->shuffleArray(array_map(static fn ($a): string => $a->code, $chosen));
        $operations = [];
        foreach ($chosen as $i => $activity) {
            $operations[] = match ($random->getInt(0, 5)) {
                0 => ['verb' => 'delete', 'kind' => 'activity', 'uid' => $activity->uid],
                1 => self::update('activity', $activity->uid, ['code' => "NEW-{$round}-{$i}", 'name' => "round {$round}"]),
                default => self::update('activity', $activity->uid, ['code' => $codes[$i], 'position' => (float) $i]),
            };
        }
        // codes that nobody has any more go to new ones
        $gone = array_diff($codes, array_map(static fn (array $o): string => $o['after']['code'] ?? '', $operations));
        foreach (array_values($gone) as $i => $code) {
            if ($random->getInt(0, 1) === 1) {
                $operations[] = ['verb' => 'create', 'kind' => 'activity', 'uid' => "made-{$round}-{$i}",
                    'after' => ['project' => $project, 'code' => $code, 'duration' => 480]];
            }
        }
        // what is left with a code that another one takes too gives it up
        $taken = [];
        foreach ($operations as $i => $o) {
            $code = $o['after']['code'] ?? null;
            if ($code !== null && isset($taken[$code])) {
                $operations[$i]['after']['code'] = "SPARE-{$round}-{$i}";
            }
            $taken[$code ?? ''] = true;
        }
        $links = array_values(array_filter($plan->links, static fn ($l): bool => $plan->projectOf($l->to) === $project));
        if ($links !== [] && $random->getInt(0, 1) === 1) {
            $l = $links[$random->getInt(0, count($links) - 1)];
            if (! in_array($l->from, array_column($operations, 'uid'), true)
                && ! in_array($l->to, array_column($operations, 'uid'), true)) {
                $operations[] = self::update('link', $l->uid, ['type' => ['FS', 'SS', 'FF'][$random->getInt(0, 2)], 'lag' => 480]);
            }
        }

        return $operations;
    }
}

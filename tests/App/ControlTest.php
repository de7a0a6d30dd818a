<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Time\Instant;

/** Progress, status date, agreements, baselines, health and bands as the API answers them. */
final class ControlTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    public function test_progress_becomes_a_change_set_with_its_assumptions_and_can_be_undone(): void
    {
        $before = $this->everything();
        $dry = $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-ostv-ci-0020', 'percent' => 25]], 'dryRun' => true])
            ->assertOk();
        self::assertNull($dry->json('changeSet'));
        self::assertSame($before, $this->everything());
        $answer = $this->postJson('/api/v1/progress?board=OSTV',
            ['reports' => [['activity' => 'act-ostv-ci-0020', 'percent' => 25]], 'reason' => 'site visit'])->assertOk();
        self::assertSame('actualStart', $answer->json('assumptions.0.field'));
        self::assertSame($dry->json('ripple'), $answer->json('ripple'));
        self::assertSame([25_000], $answer->json('board.activities.percent') === null ? []
            : array_values(array_intersect($answer->json('board.activities.percent'), [25_000])));
        $this->assertDatabaseHas('change_sets', ['uid' => $answer->json('changeSet'), 'source' => 'progress', 'reason' => 'site visit']);
        $this->assertResultsAreTrue();
        $this->postJson("/api/v1/changes/{$answer->json('changeSet')}/undo")->assertOk();
        self::assertSame($before, $this->everything());
    }

    public function test_work_and_checklists_are_stored_and_come_back(): void
    {
        $this->postJson('/api/v1/progress', ['reports' => [
            ['activity' => 'act-ostv-to-0030', 'ticked' => [0, 3], 'actualStart' => '2026-11-20T08:00'],
            ['activity' => 'act-ostv-ci-0020', 'actualStart' => '2026-11-23T08:00', 'actualWork' => 600, 'remainingWork' => 6000],
        ]])->assertOk();
        $efforts = $this->getJson('/api/v1/board?projects=OSTV')->json('efforts');
        $at = array_search('act-ostv-to-0030', $efforts['uid'], true);
        self::assertSame([true, false, false, true], array_column($efforts['checklist'][$at], 'done'));
        $at = array_search('act-ostv-ci-0020', $efforts['uid'], true);
        self::assertSame([600, 6000], [$efforts['actualWork'][$at], $efforts['remainingWork'][$at]]);
        $schedule = $this->assertResultsAreTrue();
        self::assertSame([44_444, 6600], [$schedule->network->percent[$schedule->network->node['act-ostv-to-0030']],
            AssignedWork::on($schedule->plan, 'act-ostv-ci-0020')->total()]);
    }

    /** @return iterable<string, array{array<string, mixed>, string, string}> */
    public static function mistakes(): iterable
    {
        yield 'future' => [['activity' => 'act-ostv-ci-0020', 'actualStart' => '2026-11-26T08:00'], 'lies after the status date', ''];
        yield 'unknown activity' => [['activity' => 'nobody', 'percent' => 5], 'does not exist', '/reports/0/activity'];
        yield 'over 100' => [['activity' => 'act-ostv-ci-0020', 'percent' => 101], 'between 0 and 100', '/reports/0/percent'];
        yield 'no such item' => [['activity' => 'act-ostv-to-0030', 'ticked' => [9]], 'checklist does not have', '/reports/0/ticked'];
    }

    /** @param  array<string, mixed>  $report */
    #[DataProvider('mistakes')]
    public function test_mistakes_name_the_field_and_change_nothing(array $report, string $why, string $pointer): void
    {
        $before = $this->everything();
        $answer = $this->postJson('/api/v1/progress', ['reports' => [$report]])->assertStatus(422);
        self::assertStringContainsString($why, (string) $answer->json('detail'));
        self::assertSame($pointer, $answer->json('errors.0.pointer') ?? '');
        self::assertSame($before, $this->everything());
    }

    public function test_the_status_date_takes_unfinished_work_with_it(): void
    {
        $this->change([self::update('activity', 'act-grid-st-0030',
            ['constraints' => [['kind' => 'start-pin', 'date' => '2026-11-30T08:00']]])])->assertOk();
        $answer = $this->postJson('/api/v1/projects/prj-GRID/status-date?board=GRID', ['statusDate' => '2026-12-09T17:00'])->assertOk();
        self::assertSame(2, $answer->json('operations'));
        $schedule = $this->assertResultsAreTrue();
        self::assertSame('2026-12-10T08:00', Instant::format($schedule->activity('act-grid-st-0030')->earlyStart));
        $this->postJson('/api/v1/projects/prj-GRID/status-date', ['statusDate' => 'tomorrow'])->assertStatus(422);
        $this->postJson('/api/v1/projects/prj-NONE/status-date', ['statusDate' => '2026-12-09T17:00'])->assertStatus(404);
        $this->postJson("/api/v1/changes/{$answer->json('changeSet')}/undo")->assertOk();
        self::assertSame('2026-11-30T08:00', Instant::format($this->assertResultsAreTrue()->activity('act-grid-st-0030')->earlyStart));
    }

    public function test_an_agreed_date_makes_a_handover_late_and_the_ripple_says_so(): void
    {
        $link = (string) DB::table('links')->join('activities as f', 'f.id', '=', 'from_id')->join('activities as t', 't.id', '=', 'to_id')
            ->where('f.uid', 'act-ostv-cm-0050')->where('t.uid', 'act-tern-tr-0020')->value('links.uid');
        $answer = $this->change([self::update('link', $link, ['agreed' => '2027-06-01T08:00', 'note' => 'charger'])], board: 'TERN')
            ->assertOk();
        $at = array_search($link, $answer->json('board.handovers.uid'), true);
        self::assertSame('charger', $answer->json("board.handovers.note.{$at}"));
        self::assertContains($answer->json("board.handovers.state.{$at}"), ['open', 'at-risk']);
        $late = $this->change([self::update('activity', 'act-ostv-to-0010', ['duration' => 200 * 480, 'remaining' => 190 * 480])],
            board: 'TERN')->assertOk();
        self::assertSame('late', $late->json("board.handovers.state.{$at}"));
        self::assertLessThan(0, $late->json("board.handovers.margin.{$at}"));
        $this->assertResultsAreTrue();
        $inner = (string) DB::table('links')->where('handover', 0)->value('uid');
        $this->change([self::update('link', $inner, ['agreed' => '2027-06-01T08:00'])])->assertStatus(422)
            ->assertJsonPath('field', 'agreed');
    }

    public function test_baselines_are_taken_compared_made_current_and_deleted(): void
    {
        $first = $this->getJson('/api/v1/projects/prj-LYNG/baselines')->assertOk()->json('baselines.0');
        self::assertSame(['Approved plan', true, 'Ilse Marbach'], [$first['name'], $first['current'], $first['author']]);
        $this->change([
            self::update('activity', 'act-lyng-ci-0010', ['duration' => 20 * 480]),
            ['verb' => 'delete', 'kind' => 'activity', 'uid' => 'act-lyng-cm-0060'],
            ['verb' => 'create', 'kind' => 'activity', 'uid' => 'fresh',
                'after' => ['project' => 'prj-LYNG', 'code' => 'LYNG-NEW', 'name' => 'Fenders', 'duration' => 480]],
        ])->assertOk();
        $rows = collect($this->getJson("/api/v1/baselines/{$first['uid']}/comparison")->assertOk()->json('activities'))->keyBy('uid');
        $dates = $this->getJson("/api/v1/baselines/{$first['uid']}/dates")->assertOk()->json();
        $then = $rows->whereNotNull('baseline')->map(static fn (array $v): array => [$v['baseline']['start'], $v['baseline']['finish']]);
        $drawn = array_combine($dates['uid'], array_map(null, $dates['start'], $dates['finish']));
        self::assertEquals($then->sortKeys()->all(), collect($drawn)->sortKeys()->all());
        self::assertSame(['changed', 8 * 480], [$rows['act-lyng-ci-0010']['standing'], $rows['act-lyng-ci-0010']['duration']]);
        self::assertSame(['removed', 'added', null],
            [$rows['act-lyng-cm-0060']['standing'], $rows['fresh']['standing'], $rows['fresh']['start']]);
        // nothing becomes current by itself
        $plain = $this->postJson('/api/v1/projects/prj-LYNG/baselines', ['name' => 'Plain'])->assertCreated()
            ->assertJsonPath('current', false);
        self::assertSame([false, true], $this->getJson('/api/v1/projects/prj-LYNG/baselines')->json('baselines.*.current'));
        $this->deleteJson("/api/v1/baselines/{$plain->json('uid')}")->assertNoContent();
        $second = $this->postJson('/api/v1/projects/prj-LYNG/baselines', ['name' => 'Replan', 'current' => true])->assertCreated()
            ->json('uid');
        self::assertSame([true, false], $this->getJson('/api/v1/projects/prj-LYNG/baselines')->json('baselines.*.current'));
        $rows = $this->getJson("/api/v1/baselines/{$second}/comparison")->json('activities.*.standing');
        self::assertSame(['same'], array_values(array_unique($rows)));
        $this->patchJson("/api/v1/baselines/{$first['uid']}", ['current' => true, 'name' => 'First'])->assertOk();
        $this->deleteJson("/api/v1/baselines/{$second}")->assertNoContent();
        self::assertSame([['First', true]], array_map(static fn (array $b): array => [$b['name'], $b['current']],
            $this->getJson('/api/v1/projects/prj-LYNG/baselines')->json('baselines')));
        $this->postJson('/api/v1/projects/prj-LYNG/baselines', ['name' => ''])->assertStatus(422)
            ->assertJsonPath('errors.0.pointer', '/name');
    }

    public function test_baselines_survive_the_deletion_of_their_project_and_its_undo(): void
    {
        $before = $this->getJson('/api/v1/board?projects=CREW')->json('variances');
        $deleted = $this->change([['verb' => 'delete', 'kind' => 'project', 'uid' => 'prj-CREW']])->assertOk()->json('changeSet');
        $this->getJson('/api/v1/projects/prj-CREW/baselines')->assertStatus(404);
        $this->postJson("/api/v1/changes/{$deleted}/undo")->assertOk();
        self::assertSame(['Approved plan'], $this->getJson('/api/v1/projects/prj-CREW/baselines')->json('baselines.*.name'));
        self::assertEqualsCanonicalizing($before['uid'], $this->getJson('/api/v1/board?projects=CREW')->json('variances.uid'));
    }

    /** A mark that was kept is what an examination of now would say, whatever happened in between. */
    public function test_marks_of_health_are_those_of_the_findings_after_every_kind_of_change(): void
    {
        $marks = fn (): array => $this->getJson('/api/v1/health/marks?projects=GRID,TERN,OSTV')->assertOk()->json('marks');
        $found = fn (): array => collect($this->getJson('/api/v1/health?projects=GRID,TERN,OSTV')->json('projects'))->keyBy('uid')
            ->map(static fn (array $p): array => array_map(static fn (string $severity): int => count(array_filter($p['findings'],
                static fn (array $f): bool => $f['fine'] === false && $f['severity'] === $severity)),
                ['broken' => 'broken', 'attention' => 'attention']))->sortKeys()->all();
        $seen = [];
        foreach ([
            fn () => null,
            fn () => $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 90 * 480])])->assertOk(),
            fn () => $this->change([self::update('project', 'prj-GRID', ['deadline' => '2026-12-01T17:00'])])->assertOk(),
            fn () => $this->putJson('/api/v1/health/thresholds', ['checks' => ['long-durations' => ['limit' => 0, 'days' => 2]]])
                ->assertOk(),
            fn () => $this->postJson('/api/v1/health/waivers', ['project' => 'prj-GRID', 'check' => 'long-durations',
                'reason' => 'as it is', 'activities' => DB::table('activities')->pluck('uid')->all()])->assertOk(),
            fn () => $this->postJson('/api/v1/projects/prj-TERN/baselines', ['name' => 'Now', 'current' => true])->assertCreated(),
            fn () => $this->postJson('/api/v1/health/waivers', ['project' => 'prj-GRID', 'check' => 'long-durations',
                'activities' => DB::table('activities')->pluck('uid')->all()])->assertOk(),
        ] as $step => $happens) {
            $happens();
            $now = $marks();
            ksort($now);
            self::assertSame($found(), $now, "step {$step}");
            self::assertEquals($now, $marks(), 'and once more, from what was kept');
            $seen[] = json_encode($now);
        }
        self::assertGreaterThan(3, count(array_unique($seen)));
        $this->actingAs($this->somebody('viewer', 'Harbours'));
        self::assertSame(['prj-OSTV'], array_keys($marks()));
    }

    /** What the board shows beside the rows is what the core's comparison says. */
    public function test_variances_on_the_board_are_those_of_the_comparison(): void
    {
        $this->change([self::update('activity', 'act-lyng-ci-0010', ['duration' => 20 * 480])])->assertOk();
        $shown = $this->getJson('/api/v1/board?projects=LYNG,GANN')->json('variances');
        $compared = [];
        foreach (['LYNG', 'GANN'] as $key) {
            $uid = $this->getJson("/api/v1/projects/prj-{$key}/baselines")->json('baselines.0.uid');
            $c = $this->getJson("/api/v1/baselines/{$uid}/comparison")->json();
            foreach ([...$c['activities'], ...$c['wbs'], ['uid' => "prj-{$key}"] + $c['total']] as $v) {
                $compared[$v['uid']] = [$v['baseline']['start'], $v['baseline']['finish'], $v['start'], $v['finish'], $v['duration']];
            }
        }
        $board = [];
        foreach ($shown['uid'] as $i => $uid) {
            $board[$uid] = [$shown['start'][$i], $shown['finish'][$i], $shown['startVariance'][$i], $shown['finishVariance'][$i],
                $shown['durationVariance'][$i]];
        }
        self::assertEqualsCanonicalizing($compared, $board);
        self::assertGreaterThan(60, count($board));
        $delta = $this->change([self::update('activity', 'act-lyng-ci-0010', ['duration' => 12 * 480])], board: 'LYNG')
            ->json('board.variances');
        self::assertSame(0, $delta['durationVariance'][array_search('act-lyng-ci-0010', $delta['uid'], true)]);
    }

    public function test_health_follows_the_thresholds_of_the_enterprise(): void
    {
        $findings = fn (): array => $this->getJson('/api/v1/health?projects=GRID')->assertOk()->json('projects.0.findings');
        $find = static fn (string $check): array => collect($findings())->firstWhere('check', $check);
        self::assertSame([false, ['act-grid-ca-0060']], [$find('missing-successor')['fine'], $find('missing-successor')['activities']]);
        $this->putJson('/api/v1/health/thresholds',
            ['checks' => ['missing-successor' => ['limit' => 20], 'long-durations' => ['days' => 10, 'limit' => 0]]])->assertOk();
        self::assertTrue($find('missing-successor')['fine']);
        self::assertContains('act-grid-ca-0020', $find('long-durations')['activities']);
        $this->putJson('/api/v1/health/thresholds', ['checks' => ['missing-successor' => ['limit' => 200]]])->assertStatus(422);
        $this->putJson('/api/v1/health/thresholds', ['checks' => []])->assertOk();
        self::assertFalse($find('missing-successor')['fine']);
    }

    public function test_only_administrators_set_thresholds_and_only_planners_touch_baselines(): void
    {
        $lyng = (string) DB::table('baselines')->where('project_uid', 'prj-LYNG')->value('uid');
        $this->actingAs($this->person('aino'));
        $this->postJson('/api/v1/projects/prj-LYNG/baselines', ['name' => 'x'])->assertStatus(404);
        $this->deleteJson("/api/v1/baselines/{$lyng}")->assertStatus(404);
        $this->postJson('/api/v1/projects/prj-TERN/baselines', ['name' => 'x'])->assertCreated();
        $this->putJson('/api/v1/health/thresholds', ['checks' => []])->assertStatus(403);
        self::assertFalse($this->getJson('/api/v1/health/thresholds')->json('mayChange'));
    }

    public function test_a_trace_goes_through_projects_in_order(): void
    {
        $trace = $this->getJson('/api/v1/activities/act-tern-tr-0020/trace')->assertOk();
        $starts = $trace->json('drivers.*.start');
        self::assertSame(collect($starts)->sort()->values()->all(), $starts);
        self::assertContains('OSTV', $trace->json('drivers.*.project'));
        self::assertContains('CREW', $trace->json('driven.*.project'));
        self::assertSame('act-tern-tr-0020', $trace->json('activity.uid'));
        $paths = $this->getJson('/api/v1/activities/act-tern-tr-0020/float-paths?most=3')->assertOk();
        self::assertCount(3, $paths->json('paths'));
        self::assertSame(0, $paths->json('paths.0.float'));
        self::assertSame('act-tern-tr-0020', collect($paths->json('paths.0.activities'))->last()['uid']);
    }

    public function test_bands_roll_projects_up_by_branch_or_code_with_a_filter(): void
    {
        $bands = fn (string $query): array => collect($this->getJson("/api/v1/portfolio{$query}")->assertOk()->json('bands'))->keyBy('name')
            ->all();
        $all = $bands('');
        $projects = collect($this->getJson('/api/v1/portfolio')->json('projects'));
        $days = $projects->map(static fn (array $p): int => (int) round($p['margin'] * 480 / $p['minutesPerDay']));
        self::assertSame([6, $projects->min('start'), $projects->max('finish'), $days->min(), $projects->sum('work')],
            array_values(array_intersect_key($all['Varnsund Ferries'], array_flip(['count', 'start', 'finish', 'margin', 'work']))));
        $tern = $projects->firstWhere('key', 'TERN');
        self::assertSame([960, intdiv($tern['margin'], 2)], [$tern['minutesPerDay'], $all['Vessel conversions']['margin']],
            'days of 16 hours');
        self::assertSame([0, null], [$all['Archive']['count'], $all['Archive']['start']]);
        self::assertEqualsCanonicalizing(['prj-OSTV', 'prj-LYNG'], $all['Shore power']['projects']);
        $view = static fn (array $view): string => '?view='.rawurlencode((string) json_encode($view));
        $stage = $bands($view(['group' => ['code:codeset-stage']]));
        self::assertSame(['prj-OSTV'], $stage['Civil']['projects']);
        self::assertSame(4, $stage['Build']['count']);
        self::assertEqualsCanonicalizing(['Varnsund Ferries', 'Fleet', 'Vessel conversions', 'Harbours', 'Shore power'],
            array_keys($bands($view(['group' => ['branch'], 'filter' => ['field' => 'code:codeset-district', 'is' => 'is',
                'value' => ['entry-district-outer']]]))));
        self::assertSame([], $bands($view(['group' => ['branch'], 'filter' => ['field' => 'code:codeset-district', 'is' => 'is',
            'value' => ['nowhere']]])));
    }

    public function test_results_of_an_earlier_version_are_brought_up_to_date(): void
    {
        $true = $this->everything();
        DB::table('activity_dates')->update(['percent' => 0, 'total_float' => 1]);
        DB::table('handover_dates')->delete();
        DB::table('project_dates')->update(['work' => 0]);
        $this->artisan('reihe:recalculate')->assertSuccessful();
        self::assertSame($true, $this->everything());
        $this->artisan('reihe:recalculate')->expectsOutputToContain('0 results')->assertSuccessful();
    }

    public function test_what_is_left_as_it_is_does_not_count_until_it_does_again(): void
    {
        $this->actingAs($this->person('ilse'));
        $find = fn (): array => collect($this->getJson('/api/v1/health?projects=GRID')->assertOk()->json('projects.0.findings'))
            ->first(static fn (array $f): bool => $f['check'] === 'unconfirmed-estimates');
        $before = $find();
        self::assertNotSame([], $before['activities']);
        $uid = $before['activities'][0];
        $body = ['project' => 'prj-GRID', 'check' => 'unconfirmed-estimates', 'activities' => [$uid, 'act-tern-hu-0010']];
        $this->postJson('/api/v1/health/waivers', $body + ['reason' => 'The supplier answers in May'])->assertOk();
        $after = $find();
        self::assertSame([$before['count'] - 1, 'The supplier answers in May', $uid], [$after['count'], $after['waived'][0]['reason'],
            $after['waived'][0]['activity']]);
        self::assertNotContains($uid, $after['activities']);
        self::assertCount(1, DB::table('waivers')->get(), 'activities of other projects are passed over');
        $this->postJson('/api/v1/health/waivers', $body)->assertOk();
        self::assertEquals($before, $find());
    }
}

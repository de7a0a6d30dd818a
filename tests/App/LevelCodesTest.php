<?php

declare(strict_types=1);

namespace Tests\App;

use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;

/** Level schemes, codes put together and regenerated, the WBS from a table and from outlines. */
final class LevelCodesTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
        $this->change([
            self::made('levelScheme', 'vessel', ['name' => 'Vessel', 'levels' => [['name' => 'Discipline', 'colour' => 1, 'length' => 2,
                'separator' => '.'], ['name' => 'Zone', 'colour' => null, 'length' => null, 'separator' => '/']],
                'activityCode' => [self::segment('project-key'), self::segment('literal', text: '_'), self::segment('levels'),
                    self::segment('literal', text: '#'), self::segment('counter', width: 3, step: 5)]]),
            ...array_map(static fn (string $code): array => self::made('levelCode', "lc-{$code}", ['scheme' => 'vessel', 'level' => 1,
                'code' => $code, 'name' => ['HU' => 'Hull', 'EL' => 'Electrical', 'MS' => 'Milestones', 'PR' => 'Propulsion',
                    'TR' => 'Trials'][$code]]),
                ['HU', 'EL', 'MS', 'PR', 'TR']),
            self::made('levelCode', 'lc-Z1', ['scheme' => 'vessel', 'level' => 2, 'code' => 'Z1', 'name' => 'Zone 1']),
            self::made('levelCode', 'lc-Z2', ['scheme' => 'vessel', 'level' => 2, 'code' => 'Z2', 'name' => 'Zone 2']),
            // milestones are structured otherwise
            self::made('levelCode', 'lc-Q', ['scheme' => 'vessel', 'level' => 2, 'parent' => 'lc-MS', 'code' => 'Q', 'name' => 'Gates']),
            self::update('project', 'prj-TERN', ['levelScheme' => 'vessel']),
        ])->assertOk();
    }

    /** @return array<string, mixed> */
    private static function segment(string $kind, string $text = '', int $width = 4, int $step = 10, string $set = ''): array
    {
        return ['kind' => $kind, 'text' => $text, 'level' => 1, 'width' => $width, 'step' => $step, 'set' => $set];
    }

    /** @return list<string> */
    private static function codes(string $project = 'TERN'): array
    {
        return DB::table('activities')->join('projects', 'projects.id', '=', 'project_id')->where('key', $project)->orderBy('activities.id')
            ->pluck('code')->all();
    }

    public function test_codes_are_put_together_from_segments_and_the_undo_is_exact(): void
    {
        $before = $this->plan();
        $preview = $this->postJson('/api/v1/projects/prj-TERN/codes')->assertOk();
        self::assertSame(['TERN-HU-0010', 'TERN_HU#005'], [$preview->json('sample.0.code'), $preview->json('sample.0.newCode')]);
        $done = $this->postJson('/api/v1/compose/codes', ['project' => 'prj-TERN', 'changeSet' => 'codes'])->assertOk();
        self::assertSame($preview->json('changes'), $done->json('operations'));
        self::assertSame(['TERN_HU#005', 'TERN_HU#010', 'TERN_HU#015'], array_slice(self::codes(), 0, 3));
        self::assertSame(array_unique(self::codes()), self::codes());
        $this->assertResultsAreTrue();
        $this->postJson('/api/v1/compose/codes', ['project' => 'prj-TERN'])->assertOk()->assertJsonPath('operations', 0);
        $this->postJson('/api/v1/changes/codes/undo')->assertOk();
        $this->assertSamePlan($before, $this->plan());
    }

    public function test_codes_that_would_be_the_same_get_a_number_and_hands_may_change(): void
    {
        $this->change([self::update('levelScheme', 'vessel', ['activityCode' => [self::segment('level')]])])->assertOk();
        $this->postJson('/api/v1/compose/codes', ['project' => 'prj-TERN'])->assertOk();
        self::assertSame(['HU', 'HU-2', 'HU-3'], array_slice(self::codes(), 0, 3));
        // rows exchange places, and with them their codes
        $this->change([self::update('activity', 'act-tern-hu-0010', ['position' => 2]), self::update('activity', 'act-tern-hu-0020',
            ['position' => 1])])->assertOk();
        $this->postJson('/api/v1/compose/codes', ['project' => 'prj-TERN'])->assertOk()->assertJsonPath('operations', 2);
        self::assertSame(['HU-2', 'HU'], array_slice(self::codes(), 0, 2));
        $this->change([self::update('levelScheme', 'vessel', ['activityCode' => [self::segment('literal')]])])->assertOk();
        $this->postJson('/api/v1/compose/codes', ['project' => 'prj-TERN'])->assertOk();
        self::assertSame(array_unique(self::codes()), self::codes(), 'even where the segments say nothing');
    }

    public function test_names_from_segments_and_what_does_not_fit_is_found(): void
    {
        $this->change([
            self::update('activity', 'act-tern-hu-0010', ['name' => 'Task']), self::update('activity', 'act-tern-hu-0030',
                ['name' => 'Dock: coating']),
            self::update('wbs', 'wbs-tern-el', ['code' => 'E']), self::update('wbs', 'wbs-tern-pr', ['code' => 'XX']),
            self::update('wbs', 'wbs-tern-pa', ['code' => 'Z1']),
            self::made('wbs', 'twice', ['project' => 'prj-TERN', 'code' => 'HU', 'name' => 'Second', 'position' => 99]),
        ])->assertOk();
        $findings = collect($this->postJson('/api/v1/projects/prj-TERN/codes')->assertOk()->json('findings'));
        $of = static fn (string $what): array => $findings->where('what', $what)->pluck('uid')->all();
        self::assertSame(['act-tern-hu-0010'], $of('says-nothing'));
        self::assertSame(['act-tern-hu-0060'], $of('name-twice'));
        self::assertSame(['wbs-tern-el'], $of('wrong-length'));
        self::assertEqualsCanonicalizing(['wbs-tern-el', 'wbs-tern-pr'], $of('not-in-list'));
        self::assertSame('EL, HU, MS, PR, TR', $findings->firstWhere('uid', 'wbs-tern-pr')['detail']);
        self::assertSame(['twice'], $of('duplicate'));
        self::assertContains('wbs-tern-pa', $of('level-skipped'), 'a zone where a discipline belongs');
        $this->change([self::update('levelScheme', 'vessel',
            ['activityName' => [self::segment('name'), self::segment('literal', text: ', '),
                ['level' => 1] + self::segment('level-name')]])])->assertOk();
        $this->postJson('/api/v1/compose/codes', ['project' => 'prj-TERN', 'names' => true])->assertOk();
        self::assertSame('Dock: coating, Hull and dock', DB::table('activities')->where('uid', 'act-tern-hu-0060')->value('name'));
        $this->change([self::update('levelScheme', 'vessel', ['activityName' => [self::segment('counter')]])])->assertStatus(422);
    }

    public function test_a_table_of_level_codes_builds_the_wbs_and_assigns_codes(): void
    {
        $this->change([self::made('codeSet', 'disc', ['scope' => 'activity', 'name' => 'Discipline']),
            self::made('project', 'new', ['key' => 'EIDR', 'name' => 'Eider', 'branch' => $this->branch('Fleet'), 'calendar' => 'cal-yard',
                'start' => '2027-01-11T08:00', 'levelScheme' => 'vessel'])])->assertOk();
        $row = static fn (string $code, ?int $minutes, string ...$levels): array => ['code' => $code, 'name' => "Work {$code}",
            'minutes' => $minutes,
            'levels' => $levels];
        $rows = [$row('A', 960, 'HU', 'Z1'), $row('B', 960, 'HU', 'Z2'), $row('C', 0, 'MS', 'Q'), $row('D', 960, 'MS', 'Z1'),
            $row('E', 960, 'QQ'), $row('F', null, 'HU'), $row('A', 960, 'HU'), $row('G', 960, '', 'Z1'), $row('', 960, 'HU'),
            $row('H', 960)];
        $body = ['project' => 'new', 'rows' => $rows, 'sets' => ['1' => 'disc'], 'changeSet' => 'levels'];
        $before = $this->plan();
        $tried = $this->postJson('/api/v1/compose/levels', $body + ['dryRun' => true])->assertOk();
        self::assertSame(['new', 'new', 'new', 'wrong', 'wrong', 'wrong', 'wrong', 'wrong', 'wrong', 'new'],
            array_column($tried->json('rows'), 'state'));
        self::assertSame('Z1 is not in the list of Zone', $tried->json('rows.3.why'));
        $this->assertSamePlan($before, $this->plan());
        $this->postJson('/api/v1/compose/levels', $body)->assertOk();
        $plan = $this->plan();
        $paths = [];
        foreach ($plan->wbs as $w) {
            if ($w->project === 'new') {
                $paths[implode('.', \Reihe\Core\Coding\LevelCodes::path($plan, $w))] = $w->name;
            }
        }
        self::assertEquals(['HU' => 'Hull', 'HU.Z1' => 'Zone 1', 'HU.Z2' => 'Zone 2', 'MS' => 'Milestones', 'MS.Q' => 'Gates'], $paths);
        self::assertSame(['Hull', 'Hull', 'Milestones'], array_values(array_map(static fn ($c): string => $plan->entries[$c->entry]->name,
            array_filter($plan->codings, static fn ($c): bool => $c->activity !== null))));
        // again with one moved: only that one changes
        $rows = [$row('A', null, 'HU', 'Z2'), $row('B', null, 'HU', 'Z2'), $row('C', null, 'MS', 'Q')];
        $again = $this->postJson('/api/v1/compose/levels', ['project' => 'new', 'rows' => $rows, 'sets' => ['1' => 'disc']])->assertOk();
        self::assertSame(['changed', 'same', 'same'], array_column($again->json('rows'), 'state'));
        $this->postJson("/api/v1/changes/{$again->json('changeSet')}/undo")->assertOk();
        $this->postJson('/api/v1/changes/levels/undo')->assertOk();
        $this->assertSamePlan($before, $this->plan());
    }

    public function test_the_wbs_goes_out_and_comes_in_as_an_outline(): void
    {
        $this->change([self::made('wbs', 'inner', ['project' => 'prj-TERN', 'parent' => 'wbs-tern-hu', 'code' => 'Z1',
            'name' => 'Zone “1” & <more>'])])
            ->assertOk();
        foreach (['opml', 'text'] as $format) {
            $text = (string) $this->get("/api/v1/projects/prj-TERN/outline?format={$format}")->assertOk()->getContent();
            $made = $this->postJson('/api/v1/compose/outline', ['project' => 'prj-CREW', 'format' => $format, 'text' => $text])->assertOk();
            self::assertSame(6, $made->json('operations'));
            $names = static fn (string $project): array => DB::table('wbs_elements')->join('projects', 'projects.id', '=', 'project_id')
                ->where('projects.key', $project)->orderBy('wbs_elements.name')->pluck('wbs_elements.name')->all();
            self::assertSame([], array_diff($names('TERN'), $names('CREW')));
            $this->postJson("/api/v1/changes/{$made->json('changeSet')}/undo")->assertOk();
        }
        $this->postJson('/api/v1/compose/outline', ['project' => 'prj-CREW', 'format' => 'opml', 'text' => '<html/>'])->assertStatus(422)
            ->assertJsonPath('line', 1);
    }

    public function test_ten_thousand_codes_change_at_once(): void
    {
        $operations = [self::made('project', 'big', ['key' => 'BIG', 'name' => 'Big', 'branch' => $this->branch('Archive'),
            'calendar' => 'cal-office', 'start' => '2027-01-11T08:00', 'levelScheme' => 'vessel'])];
        for ($w = 0; $w < 20; $w++) {
            $operations[] = self::made('wbs', "w{$w}", ['project' => 'big', 'code' => "W{$w}", 'name' => 'Part']);
            for ($i = 0; $i < 100; $i++) {
                $operations[] = self::made('activity', "a{$w}-{$i}", ['project' => 'big', 'wbs' => "w{$w}", 'position' => $i,
                    'code' => "{$w}.{$i}",
                    'name' => "Work {$i}", 'duration' => 480]);
            }
        }
        $this->change($operations)->assertOk();
        $before = PlanStore::load([(int) DB::table('projects')->where('key', 'BIG')->value('id')])[0];
        $answer = $this->postJson('/api/v1/compose/codes', ['project' => 'big'])->assertOk()->assertJsonPath('operations', 2000);
        self::assertSame('BIG_W19#500', DB::table('activities')->where('uid', 'a19-99')->value('code'));
        self::assertSame(0, DB::table('activities')->where('parked', '!=', 0)->count());
        $this->postJson("/api/v1/changes/{$answer->json('changeSet')}/undo")->assertOk();
        self::assertEquals($before->activities, PlanStore::load([(int) DB::table('projects')->where('key',
            'BIG')->value('id')])[0]->activities);
    }
}

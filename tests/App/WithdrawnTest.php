<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use Reihe\Core\Plan\Role;

/**
 * What is still told after a role was taken away, or through somebody else's draft: nothing of a project that is hidden now, at any
 * door, be it its name, its key, a value that was seen before or one that came later.
 */
final class WithdrawnTest extends TestCase
{
    private const MARK = 'Qqhidden';

    private const KEY = 'QQH';

    private int $branch;

    private User $leaver;

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('branch', 'qq-branch', ['parent' => $this->branch('Varnsund Ferries'), 'name' => self::MARK.' branch'])])
            ->assertOk();
        $operations = [self::made('project', 'qq-project', ['key' => self::KEY, 'name' => self::MARK.' project', 'branch' => 'qq-branch',
            'calendar' => 'cal-office', 'start' => '2026-12-01T08:00'])];
        foreach (range(0, 3) as $n) {
            $operations[] = self::made('activity', "qq-{$n}", ['project' => 'qq-project', 'code' => "A{$n}", 'name' => self::MARK." {$n}",
                'duration' => 480]);
        }
        $this->change($operations)->assertOk();
        $this->branch = (int) DB::table('branches')->where('uid', 'qq-branch')->value('id');
        $this->leaver = User::query()->create(['name' => 'Leaver', 'email' => 'leaver@example.net', 'password' => 'a password']);
        DB::table('grants')->insert(['user_id' => $this->leaver->id, 'branch_id' => $this->branch, 'role' => Role::Planner->value]);
    }

    public function test_who_lost_a_role_is_told_nothing_more_at_any_door(): void
    {
        config(['reihe.inline_import' => 0]); // a job of the worker, as for a large file
        $this->actingAs($this->leaver);
        $file = str_replace('duration="480"', 'duration="960"',
            (string) $this->get('/api/v1/exchange/export?projects='.self::KEY.'&format=plan-xml')->assertOk()->getContent());
        $job = (string) $this->import($file)->assertStatus(202)->json('uid');
        $imported = (string) $this->getJson("/api/v1/jobs/{$job}")->assertJsonPath('state', 'done')->json('result.changeSet');
        $draft = (string) $this->postJson('/api/v1/drafts', ['name' => self::MARK.' draft'])->assertCreated()->json('uid');
        $this->postJson("/api/v1/changes?draft={$draft}", ['operations' => [self::update('activity', 'qq-0',
            ['name' => self::MARK.' drafted'])], 'reason' => self::MARK.' step'])->assertOk();
        $proposed = (string) $this->postJson("/api/v1/drafts/{$draft}/propose")->assertCreated()->json('changeSet');
        $own = (string) $this->change([self::update('activity', 'qq-1', ['name' => self::MARK.' own'])],
            ['reason' => self::MARK.' reason'])->assertOk()->json('changeSet');
        $feeds = [];
        foreach ([['project', 'qq-project'], ['changes', 'qq-project'], ['baselines', null], ['risks', null],
            ['handovers', null]] as [$kind,
                $about]) {
            $feeds[] = (string) $this->postJson('/api/v1/subscriptions', ['kind' => $kind, 'about' => $about])->assertCreated()
                ->json('address');
        }
        $reads = ['changes', 'changes?state=proposed', "changes/{$imported}", "changes/{$imported}/preview", "changes/{$imported}/board",
            "changes/{$proposed}", "changes/{$proposed}/board", "changes/{$own}", 'jobs', "jobs/{$job}", "drafts/{$draft}",
            "drafts/{$draft}/board?projects=QQH", 'notices', 'history?project=qq-project', 'history/steps?projects=QQH',
            'history/steps', 'history/deleted', 'history/since?projects=QQH&since=visit', 'search?q='.self::MARK, 'subscriptions',
            'tokens', 'board?projects=QQH', 'portfolio',
            'health?projects=QQH', 'activities/qq-0/reasons', 'activities/qq-0/objects/openEnd', 'remarks/activity/qq-0',
            'remarks/project/qq-project', 'todos', 'exchange/export?projects=QQH&format=csv'];
        $told = 0;
        foreach ($reads as $path) { // before, each of these may speak of it, and most do
            $told += $this->isTold($this->get("/api/v1/{$path}")) ? 1 : 0;
        }
        self::assertGreaterThan(15, $told);

        $this->withdraw();
        $this->actingAs($this->leaver->refresh());
        foreach ($reads as $path) {
            // the name that they gave their own draft is theirs
            $this->assertSilent($this->get("/api/v1/{$path}"), $path, str_starts_with($path, 'drafts') || str_contains($path, $proposed)
                || str_starts_with($path, 'changes?state'));
        }
        $row = ['operations' => [self::update('activity', 'qq-0', ['name' => 'x'])], 'dryRun' => true];
        foreach (["changes/{$imported}/apply" => [], "changes/{$imported}/decide" => ['accept' => [0]], "changes/{$proposed}/apply" => [],
            "changes/{$own}/undo" => [], "changes?draft={$draft}" => $row, 'changes' => $row,
            "compose/paste?draft={$draft}" => ['project' => 'qq-project', 'text' => "Name\nNew", 'dryRun' => true],
            "compose/duplicate?draft={$draft}" => ['from' => 'qq-project', 'activities' => ['qq-0'], 'to' => 'qq-project',
                'dryRun' => true],
            "progress?draft={$draft}" => ['reports' => [['activity' => 'qq-0', 'actualStart' => '2026-12-01T08:00']], 'dryRun' => true],
            "status-date?draft={$draft}" => ['projects' => ['qq-project'], 'statusDate' => '2026-12-02', 'dryRun' => true],
            "drafts/{$draft}/propose" => [], "drafts/{$draft}/undo" => [], "drafts/{$draft}/redo" => [],
            "drafts/{$draft}/rebase" => ['keep' => 'mine'], "changes/{$proposed}/reject" => []] as $path => $body) {
            $this->assertSilent($this->postJson("/api/v1/{$path}", $body), $path, true);
        }
        foreach ($feeds as $address) {
            $this->assertSilent($this->get((string) parse_url($address, PHP_URL_PATH)), $address);
        }
    }

    /** Somebody's shared draft on a hidden project, under which the live plan went on: all that others learn is that something clashes. */
    public function test_a_shared_draft_shows_nothing_of_what_is_hidden(): void
    {
        $this->actingAs($this->leaver);
        $draft = (string) $this->postJson('/api/v1/drafts', ['name' => 'Idea', 'shared' => true])->assertCreated()->json('uid');
        $this->postJson("/api/v1/changes?draft={$draft}", ['operations' => [self::update('activity', 'qq-0',
            ['name' => self::MARK.' drafted'])], 'reason' => self::MARK.' step'])->assertOk();
        $this->goOn();
        $this->actingAs($this->leaver);
        $clash = $this->get("/api/v1/drafts/{$draft}/board?projects=QQH")->assertStatus(409);
        self::assertTrue($this->isTold($clash)); // its author sees both values
        self::assertSame(0, $clash->json('hidden'));
        $planner = $this->somebody('planner', 'Harbours');
        $this->actingAs($planner);
        $key = (string) DB::table('projects')->whereIn('branch_id', DB::table('grants')->where('user_id', $planner->id)->pluck('branch_id'))
            ->value('key');
        $uid = (string) DB::table('projects')->where('key', $key)->value('uid');
        foreach (["drafts/{$draft}" => 200, "drafts/{$draft}/board?projects={$key}" => 409, 'drafts' => 200] as $path => $status) {
            $this->assertSilent($this->get("/api/v1/{$path}")->assertStatus($status), $path);
        }
        self::assertSame(1, $this->get("/api/v1/drafts/{$draft}/board?projects={$key}")->json('hidden'));
        foreach (['compose/paste' => ['project' => $uid, 'text' => "Name\nNew", 'dryRun' => true],
            'changes' => ['operations' => [self::update('project', $uid, ['name' => 'x'])], 'dryRun' => true],
            'compose/outline' => ['project' => $uid, 'format' => 'text', 'text' => 'New', 'dryRun' => true]] as $path => $body) {
            $this->assertSilent($this->postJson("/api/v1/{$path}?draft={$draft}", $body), $path);
        }
    }

    /** The key of a hidden project that was freed and taken by one that is seen makes nothing of the old one visible. */
    public function test_a_freed_and_retaken_key_opens_nothing(): void
    {
        $this->change([self::made('link', 'qq-link', ['from' => 'qq-0', 'to' => 'act-grid-ca-0050'])])->assertOk();
        $planner = $this->somebody('planner', 'Harbours');
        $grid = (int) DB::table('projects')->where('uid', 'prj-GRID')->value('branch_id');
        DB::table('grants')->insert(['user_id' => $planner->id, 'branch_id' => $grid, 'role' => Role::Approver->value]);
        $this->actingAs($this->person('ilse'));
        $draft = (string) $this->postJson('/api/v1/drafts', ['name' => 'Idea', 'shared' => true])->json('uid');
        $this->postJson("/api/v1/changes?draft={$draft}", ['operations' => [self::update('activity', 'qq-0',
            ['duration' => 480 * 400])], 'reason' => 'x'])->assertOk();
        $this->change([self::update('project', 'qq-project', ['key' => 'OTHER'])])->assertOk();
        $this->change([self::update('project', 'prj-GRID', ['key' => self::KEY])])->assertOk();
        $this->actingAs($planner);
        $moved = $this->get("/api/v1/drafts/{$draft}/board?projects=".self::KEY)->assertOk();
        self::assertStringNotContainsString(self::MARK, (string) $moved->getContent());
        self::assertContains('prj-GRID', array_column($moved->json('comparison.projects'), 'uid'));
    }

    private function withdraw(): void
    {
        DB::table('grants')->where('user_id', $this->leaver->id)->delete();
        $this->goOn();
    }

    private function goOn(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('activity', 'qq-0', ['name' => self::MARK.' went on'])], ['reason' => self::MARK.' later'])->assertOk();
    }

    private function isTold(TestResponse $answer): bool
    {
        $text = (string) $answer->getContent();

        return str_contains($text, self::MARK) || str_contains($text, self::KEY.'/') || str_contains($text, '"'.self::KEY.'"');
    }

    private function assertSilent(TestResponse $answer, string $door, bool $hasOwnName = false): void
    {
        self::assertLessThan(500, $answer->status(), "{$door}: {$answer->getContent()}");
        $text = str_replace($hasOwnName ? [self::MARK.' draft"'] : [], '', (string) $answer->getContent());
        self::assertStringNotContainsStringIgnoringCase(self::MARK, $text, $door);
        self::assertStringNotContainsString(self::KEY.'/', $text, $door);
        self::assertStringNotContainsString('"'.self::KEY.'"', $text, $door);
    }

    private function import(string $content): TestResponse
    {
        return $this->post('/api/v1/exchange/import', ['branch' => 'qq-branch', 'update' => '1',
            'file' => \Illuminate\Http\UploadedFile::fake()->createWithContent('secret.xml', $content)], ['Accept' => 'application/json']);
    }
}

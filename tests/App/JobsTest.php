<?php

declare(strict_types=1);

namespace Tests\App;

use App\Jobs\Work;
use App\Models\BackgroundJob;
use App\Models\ChangeSet;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use Illuminate\Testing\TestResponse;

/** Long work in the background: the same results as at once, and nothing of what is cancelled, cut off or refused. */
final class JobsTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    public function test_a_large_file_is_previewed_and_applied_in_the_background(): void
    {
        $file = $this->file();
        $atOnce = $this->import($file)->assertStatus(201)->json();
        config(['reihe.inline_import' => 0, 'reihe.inline_operations' => 0]);
        $job = $this->import($file)->assertStatus(202)->json(); // the queue of the tests works at once
        self::assertSame(['preview', 'grid.xml', 'done'], [$job['what'], $job['title'], $job['state']]);
        $without = static fn (array $preview): array => ['projects' => array_map(static fn (array $p): array => array_diff_key($p,
            ['uid' => 0]),
            $preview['projects'])] + array_diff_key($preview, ['changeSet' => 0]);
        self::assertEquals($without($atOnce), $without($job['result']));
        $before = DB::table('activities')->count();
        $apply = $this->postJson("/api/v1/changes/{$job['result']['changeSet']}/apply")->assertStatus(202)->json();
        self::assertSame('done', $apply['state']);
        self::assertSame('writing', $apply['step']);
        self::assertSame($before + $atOnce['counts']['activity'], DB::table('activities')->count());
        $this->assertResultsAreTrue();
        $this->getJson('/api/v1/jobs')->assertJsonPath('jobs.*.what', ['apply', 'preview'])->assertJsonPath('jobs.0.result', null);
        self::assertSame(0, DB::table('background_jobs')->whereNotNull('file')->count(), 'files do not stay');
        $again = $this->postJson("/api/v1/changes/{$job['result']['changeSet']}/apply")->assertStatus(202)->json();
        self::assertSame(['failed', 'urn:reihe:problem:decided'], [$again['state'], $again['problem']['type']]);
    }

    public function test_a_faulty_file_fails_with_its_line(): void
    {
        config(['reihe.inline_import' => 0]);
        $job = $this->import("<plan xmlns=\"urn:reihe:plan:1\">\n<nonsense/></plan>")->assertStatus(202)->json();
        self::assertSame(['failed', 'urn:reihe:problem:file', 2], [$job['state'], $job['problem']['type'], $job['problem']['line']]);
        self::assertSame(0, ChangeSet::query()->where('state', 'proposed')->count());
    }

    public function test_cancelling_leaves_nothing(): void
    {
        config(['reihe.inline_import' => 0, 'reihe.inline_operations' => 0]);
        $proposal = $this->import($this->file())->json('result.changeSet');
        Queue::fake();
        $waiting = $this->import($this->file())->json('uid');
        $this->postJson("/api/v1/jobs/{$waiting}/cancel")->assertOk()->assertJsonPath('state', 'cancelled');
        (new Work($waiting))->handle();
        $this->getJson("/api/v1/jobs/{$waiting}")->assertJsonPath('state', 'cancelled')->assertJsonPath('result', null);

        $before = $this->everything();
        $running = $this->postJson("/api/v1/changes/{$proposal}/apply")->json('uid');
        $this->assertSame('waiting', $this->getJson("/api/v1/jobs/{$running}")->json('state'));
        DB::listen(static function ($query) use ($running): void { // somebody presses cancel while rows are being written
            if (str_starts_with($query->sql, 'insert into `projects`')) {
                DB::table('background_jobs')->where('uid', $running)->update(['cancel' => true]);
            }
        });
        (new Work($running))->handle();
        $this->getJson("/api/v1/jobs/{$running}")->assertJsonPath('state', 'cancelled');
        self::assertEquals($before, $this->everything());
        $this->getJson("/api/v1/changes/{$proposal}")->assertJsonPath('state', 'proposed');
    }

    public function test_started_twice_it_is_done_once_and_cut_off_it_says_so(): void
    {
        config(['reihe.inline_import' => 0]);
        Queue::fake();
        $uid = $this->import($this->file())->json('uid');
        (new Work($uid))->handle();
        (new Work($uid))->handle();
        self::assertSame(1, ChangeSet::query()->where('state', 'proposed')->count());
        BackgroundJob::query()->where('uid', $uid)->update(['state' => 'running', 'seen_at' => now()->subMinutes(5)]);
        $this->getJson("/api/v1/jobs/{$uid}")->assertJsonPath('state', 'failed')
            ->assertJsonPath('problem.type', 'urn:reihe:problem:stopped');
        (new Work('none'))->handle();
    }

    public function test_nothing_is_done_for_somebody_who_was_deactivated_or_may_not_any_more(): void
    {
        config(['reihe.inline_import' => 0, 'reihe.inline_operations' => 0]);
        $file = $this->file();
        $planner = $this->somebody('planner');
        $this->actingAs($planner);
        $proposal = $this->import($file)->json('result.changeSet');
        Queue::fake();
        $preview = $this->import($file)->json('uid');
        $apply = $this->postJson("/api/v1/changes/{$proposal}/apply")->json('uid');
        DB::table('grants')->where('user_id', $planner->id)->update(['role' => 'viewer']);
        $before = DB::table('projects')->count();
        (new Work($apply))->handle();
        self::assertSame(['failed', 'urn:reihe:problem:forbidden'],
            [BackgroundJob::query()->where('uid', $apply)->value('state'),
                BackgroundJob::query()->where('uid', $apply)->firstOrFail()->problem['type'] ?? null]);
        $planner->update(['active' => false]);
        (new Work($preview))->handle();
        self::assertSame('cancelled', BackgroundJob::query()->where('uid', $preview)->value('state'));
        self::assertSame($before, DB::table('projects')->count());
    }

    public function test_jobs_of_others_do_not_exist(): void
    {
        config(['reihe.inline_import' => 0]);
        $uid = $this->import($this->file())->json('uid');
        $this->actingAs($this->person('aino'));
        $this->getJson('/api/v1/jobs')->assertExactJson(['jobs' => []]);
        $this->getJson("/api/v1/jobs/{$uid}")->assertNotFound();
        $this->postJson("/api/v1/jobs/{$uid}/cancel")->assertNotFound();
        self::assertSame('done', BackgroundJob::query()->where('uid', $uid)->value('state'));
    }

    private function file(): string
    {
        return (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->getContent();
    }

    private function import(string $content): TestResponse
    {
        return $this->post('/api/v1/exchange/import',
            ['branch' => $this->branch('Archive'), 'file' => UploadedFile::fake()->createWithContent('grid.xml', $content)],
            ['Accept' => 'application/json']);
    }
}

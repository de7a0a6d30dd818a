<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\ChangeSet;
use App\Planning\ChangeRequest;
use App\Planning\Decided;
use App\Planning\Planning;
use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\TestWith;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;

/** Several people on one plan: nothing is lost, nothing is written over unseen, everybody's board comes up to date. */
final class TogetherTest extends TestCase
{
    private const UID = 'act-grid-ca-0050';

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    /** Deleted and brought back, once and again: what happened before is no news of what is there now. */
    public function test_a_project_that_came_back_tells_nothing_of_its_end(): void
    {
        $this->actingAs($this->person('ilse'));
        $revision = fn (): int => $this->getJson('/api/v1/board?projects=GRID')->json('projects.0.revision');
        $all = $this->getJson('/api/v1/board?projects=GRID')->json('activities.uid');
        $last = $revision();
        for ($n = 1; $n <= 3; $n++) {
            $gone = $this->change([self::gone('project', 'prj-GRID')])->assertOk()->json('changeSet');
            $this->postJson("/api/v1/changes/{$gone}/undo")->assertOk();
            self::assertGreaterThan($last, $revision());
            $last = $revision();
            $this->change([self::update('activity', 'act-grid-ca-0050', ['name' => "Back {$n}"])])->assertOk();
            $news = $this->news('GRID', "prj-GRID:{$last}")->assertOk();
            self::assertSame([[], ['act-grid-ca-0050']], [$news->json('removed') ?? [], $news->json('activities.uid')]);
            // one's own change tells no more either
            $answer = $this->change([self::update('activity', 'act-grid-ca-0050', ['name' => "Again {$n}"])],
                ['revisions' => ['prj-GRID' => $last + 1]], 'GRID')->assertOk();
            self::assertSame([], $answer->json('board.removed'));
            self::assertEqualsCanonicalizing($all, $this->getJson('/api/v1/board?projects=GRID')->json('activities.uid'));
            $last += 2;
        }
    }

    /** Another key, also one that somebody else took over meanwhile: the board holds the projects that it held. */
    public function test_a_board_keeps_its_projects_when_their_keys_change(): void
    {
        $this->actingAs($this->person('ilse'));
        $revisions = $this->revisions();
        $since = implode(',', array_map(static fn (string $uid, int $r): string => "{$uid}:{$r}", array_keys($revisions), $revisions));
        $this->change([self::update('project', 'prj-GRID', ['key' => 'NETZ'])])->assertOk();
        $this->change([self::update('project', 'prj-TERN', ['key' => 'GRID'])])->assertOk();
        $keys = ['prj-GRID' => 'NETZ', 'prj-OSTV' => 'OSTV'];
        $of = static fn (mixed $projects): array => array_column(is_array($projects) ? $projects : [], 'key', 'uid');
        self::assertEquals($keys, $of($this->news('GRID,OSTV', $since)->assertOk()->json('projects')));
        $answer = $this->change([self::update('project', 'prj-OSTV', ['key' => 'QUAY'])], ['revisions' => $revisions], 'GRID,OSTV')
            ->assertOk();
        self::assertEquals(['prj-OSTV' => 'QUAY'] + $keys, $of($answer->json('board.projects')));
        // who knows nothing yet gets what the keys say now
        self::assertEquals(['prj-TERN' => 'GRID'], $of($this->news('GRID', '')->assertOk()->json('projects')));
        // a key that is taken is refused in words, however it is written
        foreach (['GRID', 'quay', 'A B', '', str_repeat('X', 21)] as $wrong) {
            $this->change([self::update('project', 'prj-GRID', ['key' => $wrong])])->assertUnprocessable();
        }
    }

    public function test_an_answer_brings_everything_up_to_date_that_changed_since_the_board_was_read(): void
    {
        $revisions = $this->revisions();
        $this->change([self::update('activity', 'act-grid-st-0030', ['name' => 'Somebody else was here'])])->assertOk();
        $this->change([self::update('activity', 'act-ostv-to-0030', ['duration' => 99 * 480])])->assertOk();
        $answer = $this->change([self::update('activity', self::UID, ['name' => 'Mine'])], ['revisions' => $revisions], 'GRID,OSTV')
            ->assertOk();
        self::assertContains('act-grid-st-0030', $answer->json('board.activities.uid'));
        self::assertContains('act-ostv-to-0030', $answer->json('board.activities.uid'));
        self::assertContains('act-ostv-cm-0010', $answer->json('board.activities.uid'), 'computed dates too');
        self::assertSame($this->revisions(), array_column($answer->json('board.projects'), 'revision', 'uid'));
    }

    public function test_news_are_nothing_until_something_happens_and_then_all_of_it(): void
    {
        $since = $this->since();
        $this->news('GRID,OSTV', "{$since}")->assertNoContent();
        $made = $this->change([
            ['verb' => 'create', 'kind' => 'activity', 'uid' => 'fresh',
                'after' => ['project' => 'prj-GRID', 'code' => 'FRESH', 'duration' => 480]],
            ['verb' => 'delete', 'kind' => 'activity', 'uid' => 'act-grid-ca-0060'],
        ])->assertOk()->json('changeSet');
        $news = $this->news('GRID,OSTV', "{$since}")->assertOk();
        self::assertContains('fresh', $news->json('activities.uid'));
        self::assertContains('act-grid-ca-0060', $news->json('removed'));
        $this->postJson("/api/v1/changes/{$made}/undo")->assertOk();
        $news = $this->news('GRID,OSTV', "{$since}")->assertOk();
        self::assertContains('act-grid-ca-0060', $news->json('activities.uid'));
        self::assertContains('fresh', $news->json('removed'));
        // a change elsewhere that moves nothing here is no news here
        $since = $this->since();
        $this->change([self::update('activity', 'act-crew-ro-0020', ['name' => 'x'])])->assertOk();
        $this->news('GRID,OSTV', "{$since}")->assertNoContent();
        $this->change([['verb' => 'delete', 'kind' => 'project', 'uid' => 'prj-OSTV']])->assertOk();
        self::assertSame(['GRID'], $this->news('GRID,OSTV', "{$since}")->assertOk()
            ->json('projects.*.key'));
    }

    public function test_deleting_what_somebody_changed_meanwhile_is_a_clash(): void
    {
        $revisions = $this->revisions();
        $this->change([['verb' => 'create', 'kind' => 'activity', 'uid' => 'theirs',
            'after' => ['project' => 'prj-GRID', 'wbs' => 'wbs-grid-ca', 'code' => 'THEIRS', 'duration' => 480]]])->assertOk();
        $clash = $this->change([['verb' => 'delete', 'kind' => 'wbs', 'uid' => 'wbs-grid-ca']], ['revisions' => $revisions])
            ->assertStatus(409);
        self::assertSame(['theirs'], $clash->json('conflicts.*.uid'));
        self::assertNull($clash->json('conflicts.0.field'));
        $this->change([['verb' => 'delete', 'kind' => 'wbs', 'uid' => 'wbs-grid-ca']], ['revisions' => $this->revisions()])->assertOk();
    }

    public function test_undoing_a_creation_does_not_take_what_others_put_into_it(): void
    {
        $made = $this->change([['verb' => 'create', 'kind' => 'wbs', 'uid' => 'mine',
            'after' => ['project' => 'prj-GRID', 'code' => 'M', 'name' => 'Mine']]])->assertOk()->json('changeSet');
        $theirs = $this->change([['verb' => 'create', 'kind' => 'activity', 'uid' => 'theirs',
            'after' => ['project' => 'prj-GRID', 'wbs' => 'mine', 'code' => 'THEIRS', 'duration' => 480]]])->assertOk()->json('changeSet');
        $this->postJson("/api/v1/changes/{$made}/undo")->assertStatus(409)->assertJsonPath('conflicts.0.uid', 'theirs');
        self::assertSame('applied', ChangeSet::query()->where('uid', $made)->value('state'));
        $this->postJson("/api/v1/changes/{$theirs}/undo")->assertOk();
        $this->postJson("/api/v1/changes/{$made}/undo")->assertOk();
    }

    public function test_a_progress_report_says_what_its_author_saw(): void
    {
        $seen = ['actualStart' => null, 'remaining' => null, 'actualFinish' => null];
        $report = ['activity' => 'act-ostv-ci-0020', 'percent' => 25, 'seen' => $seen];
        $this->postJson('/api/v1/progress', ['reports' => [$report]])->assertOk();
        $clash = $this->postJson('/api/v1/progress', ['reports' => [['percent' => 50] + $report]])->assertStatus(409);
        self::assertContains('remaining', $clash->json('conflicts.*.field'));
        $status = DB::table('projects')->where('key', 'OSTV')->value('status_date');
        self::assertIsInt($status);
        $this->postJson('/api/v1/projects/prj-OSTV/status-date', ['statusDate' => '2026-12-01T12:00', 'seen' => '2020-01-01T00:00'])
            ->assertStatus(409)->assertJsonPath('conflicts.0.field', 'statusDate');
    }

    public function test_sending_a_change_again_changes_nothing_more_and_answers_the_same(): void
    {
        $once = $this->change([self::update('activity', self::UID, ['duration' => 99 * 480])], ['changeSet' => 'my-change'], 'GRID')
            ->assertOk();
        $after = $this->everything();
        $again = $this->change([self::update('activity', self::UID, ['duration' => 99 * 480])], ['changeSet' => 'my-change'], 'GRID')
            ->assertOk();
        self::assertSame($once->json('ripple'), $again->json('ripple'));
        self::assertSame('my-change', $again->json('changeSet'));
        self::assertEquals($after, $this->everything());
        self::assertSame(1, ChangeSet::query()->where('uid', 'my-change')->count());
        $this->getJson('/api/v1/changes/my-change')->assertOk()->assertJsonPath('state', 'applied');
        $this->getJson('/api/v1/changes/never-sent')->assertNotFound();
        foreach ([1, 2] as $time) {
            $this->postJson('/api/v1/changes/my-change/undo', ['changeSet' => 'my-undo'])->assertOk()
                ->assertJsonPath('changeSet', 'my-undo');
        }
        $this->postJson('/api/v1/changes/my-change/undo', ['changeSet' => 'another'])->assertStatus(409)
            ->assertJsonPath('type', 'urn:reihe:problem:decided');
        $this->actingAs($this->somebody('planner'));
        $this->change([self::update('activity', self::UID, ['name' => 'x'])], ['changeSet' => 'my-change'])->assertStatus(422);
    }

    /** The rule of docs/calculation.md, through the door: what follows moves. */
    public function test_a_longer_duration_of_work_begun_moves_what_follows(): void
    {
        $begun = DB::table('activities')->where('uid', 'act-tern-el-0030')->first(['duration', 'remaining', 'actual_start']);
        self::assertNotNull($begun?->actual_start);
        $ripple = $this->change([self::update('activity', 'act-tern-el-0030', ['duration' => $begun->duration + 40 * 960])], board: 'TERN')
            ->assertOk();
        self::assertGreaterThan(3, $ripple->json('ripple.movedActivities'));
        self::assertSame($begun->remaining + 40 * 960, DB::table('activities')->where('uid', 'act-tern-el-0030')->value('remaining'));
        $this->assertResultsAreTrue();
    }

    public function test_colours_stay_with_their_projects_and_differ_among_neighbours(): void
    {
        $branch = $this->branch('Quays');
        $colours = [];
        for ($i = 0; $i < 8; $i++) {
            $this->change([['verb' => 'create', 'kind' => 'project', 'uid' => "q{$i}",
                'after' => ['key' => "Q{$i}", 'name' => 'Quay', 'branch' => $branch, 'calendar' => 'cal-office', 'start' => '2026-12-01']]])
                ->assertOk();
            $colours[] = DB::table('projects')->where('uid', "q{$i}")->value('colour');
        }
        self::assertCount(8, array_unique($colours));
        $shown = array_column($this->getJson('/api/v1/portfolio')->json('projects'), 'colour', 'key');
        self::assertSame($shown['Q3'], $this->getJson('/api/v1/board?projects=Q3')->json('projects.0.colour'));
        $deleted = $this->change([['verb' => 'delete', 'kind' => 'project', 'uid' => 'q3']])->json('changeSet');
        $this->postJson("/api/v1/changes/{$deleted}/undo")->assertOk();
        self::assertSame($shown['Q3'], DB::table('projects')->where('uid', 'q3')->value('colour'));
    }

    public function test_calendars_that_lead_back_to_themselves_are_refused_at_once(): void
    {
        foreach ([[['cal-office', 'cal-yard']], [['cal-office', 'cal-office']], [['cal-office', 'cal-none']]] as [[$calendar, $base]]) {
            $answer = $this->change([self::update('calendar', $calendar, ['base' => $base])])->assertStatus(422);
            self::assertStringContainsString('base', (string) $answer->getContent());
        }
        self::assertCount(5, PlanStore::calendars());
    }

    /** @return array<string, int> project uid => revision, of GRID and OSTV */
    private function revisions(): array
    {
        /** @var array<string, int> */
        return DB::table('projects')->whereIn('key', ['GRID', 'OSTV'])->orderBy('key')->pluck('revision', 'uid')->all();
    }

    private function since(): string
    {
        return implode(',', array_map(static fn (string $uid, int $revision): string => "{$uid}:{$revision}",
            array_keys($this->revisions()), $this->revisions()));
    }

    /** The same request twice at one moment: the second begins before the first has written, and gets the answer of the first. */
    public function test_the_same_change_set_at_the_same_moment_gives_one_answer(): void
    {
        $ilse = $this->person('ilse');
        $operations = [Operation::create(EntityKind::Activity, 'once', ['project' => 'prj-GRID', 'code' => 'ONCE', 'duration' => 480])];
        $first = null;
        $second = (new Planning($ilse))->commit(new ChangeRequest($operations, uid: 'set-once',
            tick: function () use (&$first, $operations, $ilse): void {
                $first ??= (new Planning($ilse))->commit(new ChangeRequest($operations, uid: 'set-once'));
            }));
        self::assertNotNull($first);
        self::assertSame(['set-once', 'set-once'], [$first->changeSet, $second->changeSet]);
        self::assertEquals($first->ripple, $second->ripple);
        self::assertSame(1, ChangeSet::query()->where('uid', 'set-once')->count());
    }

    /** A proposal that somebody applies or rejects at the same moment is answered with what became of it, not with what it left. */
    #[TestWith(['apply'])]
    #[TestWith(['reject'])]
    public function test_a_proposal_decided_at_the_same_moment_is_said_to_be_decided(string $how): void
    {
        $ilse = $this->person('ilse');
        $operations = [Operation::create(EntityKind::Activity, 'once', ['project' => 'prj-GRID', 'code' => 'ONCE', 'duration' => 480])];
        $proposal = ChangeSet::query()->create(['uid' => 'proposal-once', 'author_id' => $ilse->id, 'source' => 'draft',
            'state' => 'proposed', 'reason' => '', 'operations' => $operations, 'operation_count' => 1, 'ripple' => [],
            'created_at' => now()]);
        $done = false;
        try {
            (new Planning($ilse))->commit(new ChangeRequest($operations, source: 'draft', proposal: $proposal->refresh(),
                tick: function () use (&$done, $operations, $ilse, $how): void {
                    if (! $done) {
                        $done = true;
                        $same = ChangeSet::query()->where('uid', 'proposal-once')->firstOrFail();
                        $how === 'reject' ? (new Planning($ilse))->reject($same)
                            : (new Planning($ilse))->commit(new ChangeRequest($operations, source: 'draft', proposal: $same));
                    }
                }));
            self::fail('it was applied twice');
        } catch (Decided $e) {
            self::assertSame($how === 'apply' ? 'applied' : 'rejected', $e->changeSet->state);
        }
        foreach (['apply', 'reject'] as $again) {
            $this->actingAs($ilse);
            $this->postJson("/api/v1/changes/proposal-once/{$again}")->assertStatus(409);
        }
    }

    /** A board of the whole portfolio of a large house: 900 projects are asked about in one go. */
    public function test_news_of_hundreds_of_projects_are_asked_for_in_one_go(): void
    {
        $keys = $since = [];
        for ($i = 0; $i < 900; $i++) {
            $keys[] = "PRJ{$i}";
            $since[] = "01jdabcdefghjkmnpqrstv{$i}:{$i}";
        }
        $now = $this->since();
        $this->change([self::update('activity', self::UID, ['name' => 'Far down the list'])])->assertOk();
        $news = $this->news(implode(',', [...$keys, 'GRID', 'OSTV']), implode(',', [...$since, $now]))->assertOk();
        self::assertContains(self::UID, $news->json('activities.uid'));
        foreach ([['projects' => 'GRID', 'since' => []], ['projects' => [['x']], 'since' => []],
            ['projects' => ['GRID'], 'since' => ['x' => -1]],
            ['projects' => ['GRID'], 'since' => 'x'], ['projects' => ['GRID']], []] as $body) {
            $this->postJson('/api/v1/board/news', $body)->assertStatus(422);
        }
        $read = $this->person('ilse')->createToken('t', ['read'])->plainTextToken;
        $this->app['auth']->forgetGuards();
        $this->flushSession();
        $this->withToken($read)->postJson('/api/v1/board/news', ['projects' => ['GRID'], 'since' => []])->assertOk();
    }
}

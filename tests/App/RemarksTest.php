<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\User;
use App\Planning\Notices;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;

/** A remark is an object like any other: history, undo, clash, file, feed and access come from the catalogue of kinds. */
final class RemarksTest extends TestCase
{
    private const ACTIVITY = 'act-grid-ca-0050';

    public function test_author_and_moment_are_filled_in_and_stay(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->remark('r1', ['text' => "First line\nsecond", 'author' => 'Somebody else', 'written' => '1999-01-01T00:00'])->assertOk();
        $this->getJson($this->path())->assertOk()->assertExactJson(['remarks' => [['uid' => 'r1', 'answers' => null,
            'text' => "First line\nsecond", 'author' => 'Ilse Marbach', 'written' => '2026-11-25T12:00', 'todo' => false, 'done' => false,
            'about' => '']], 'total' => 1, 'pages' => 1]);
        $this->change([self::update('remark', 'r1', ['author' => 'Noor'])])->assertStatus(422)
            ->assertJsonPath('errors.0.pointer', '/operations/0/after/author');
        $this->change([self::update('remark', 'r1', ['text' => 'Corrected'])])->assertOk();
        $this->change([['verb' => 'update', 'kind' => 'remark', 'uid' => 'r1', 'before' => ['text' => 'First line'],
            'after' => ['text' => 'Mine']]])->assertStatus(409)
            ->assertJsonPath('conflicts.0.theirs', 'Corrected')->assertJsonPath('conflicts.0.label', 'remark on GRID/GRID-CA-0050');
        $this->remark('r2', ['text' => '  '])->assertStatus(422);
        $this->remark('r3', ['text' => str_repeat('x', 4001)])->assertStatus(422);
    }

    public function test_it_goes_with_its_activity_and_comes_back(): void
    {
        $this->actingAs($this->person('ilse'));
        $made = $this->remark('r1', ['text' => 'Check the cable'])->assertOk()->json('changeSet');
        $before = $this->everything();
        $gone = $this->change([['verb' => 'delete', 'kind' => 'activity', 'uid' => self::ACTIVITY]])->assertOk()->json('changeSet');
        self::assertSame(0, DB::table('remarks')->count());
        $this->postJson("/api/v1/changes/{$gone}/undo")->assertOk();
        $this->getJson($this->path())->assertJsonPath('remarks.0.text', 'Check the cable')
            ->assertJsonPath('remarks.0.author', 'Ilse Marbach');
        self::assertEquals($before, $this->everything());
        $undone = $this->postJson("/api/v1/changes/{$made}/undo")->assertOk()->json('changeSet');
        $this->getJson($this->path())->assertJsonPath('remarks', []);
        $this->postJson("/api/v1/changes/{$undone}/undo")->assertOk();
        $this->getJson($this->path())->assertJsonPath('remarks.0.written', '2026-11-25T12:00');
        $this->getJson('/api/v1/changes')->assertJsonPath('changes.0.source', 'undo');
    }

    public function test_files_and_the_feed_carry_it(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->remark('r1', ['text' => "Line “1” & <2>\nend"])->assertOk();
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->getContent();
        $import = $this->post('/api/v1/exchange/import',
            ['branch' => $this->branch('Archive'), 'file' => UploadedFile::fake()->createWithContent('a.xml', $file)],
            ['Accept' => 'application/json'])->assertCreated();
        self::assertSame(1, $import->json('counts.remark'));
        $this->postJson("/api/v1/changes/{$import->json('changeSet')}/apply")->assertOk();
        self::assertSame(["Line “1” & <2>\nend" => 2], array_count_values(DB::table('remarks')->pluck('text')->all()));
        self::assertSame(['Ilse Marbach' => 2], array_count_values(DB::table('remarks')->pluck('author')->all()));
        $token = $this->postJson('/api/v1/tokens', ['name' => 'x', 'scopes' => ['feed']])->json('token');
        $rows = $this->withToken($token)->getJson('/odata/v4/Remarks?$expand=Activity($select=Code)&$filter=contains(Text,%27end%27)')
            ->assertOk()->json('value');
        self::assertCount(2, $rows);
        self::assertSame(['GRID-CA-0050', 'Ilse Marbach', '2026-11-25T12:00:00Z'],
            [$rows[0]['Activity']['Code'], $rows[0]['Author'], $rows[0]['Written']]);
    }

    public function test_out_of_reach_it_does_not_exist(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->remark('r1', ['text' => 'Secret'])->assertOk();
        $this->actingAs($this->somebody('planner', 'Fleet'));
        $absent = $this->getJson('/api/v1/remarks/activity/none')->assertNotFound();
        self::assertSame($absent->getContent(), $this->getJson($this->path())->assertNotFound()->getContent());
        $this->change([self::update('remark', 'r1', ['text' => 'x'])])->assertStatus(422)
            ->assertJsonPath('errors.0.detail', 'this remark does not exist (any more)');
        $this->remark('r2', ['text' => 'x'])->assertStatus(422)->assertJsonPath('errors.0.detail', 'does not exist');
        $this->actingAs($this->somebody('viewer'));
        $this->getJson($this->path())->assertOk();
        $this->remark('r2', ['text' => 'x'])->assertForbidden();
        $this->getJson('/api/v1/remarks/calendar/cal-dock')->assertNotFound();
    }

    public function test_the_documents_follow_the_catalogue_of_fields(): void
    {
        $this->artisan('reihe:catalogue', ['--check' => true])->assertSuccessful();
    }

    /** @param  array<string, mixed>  $fields */
    private function remark(string $uid, array $fields): \Illuminate\Testing\TestResponse
    {
        return $this->change([['verb' => 'create', 'kind' => 'remark', 'uid' => $uid,
            'after' => $fields + ['project' => 'prj-GRID', 'activity' => self::ACTIVITY]]]);
    }

    private function path(): string
    {
        return '/api/v1/remarks/activity/'.self::ACTIVITY;
    }

    public function test_who_is_mentioned_and_sees_the_project_gets_one_notice(): void
    {
        $this->actingAs($this->person('ilse'));
        $outside = $this->somebody(null);
        $outside->forceFill(['name' => 'Aino Out'])->save();
        $chidi = $this->person('chidi');
        $far = $this->person('aino')->name; // plans the fleet, and does not see this project
        $text = "@{$chidi->name} please look, @{$far} and @Aino Out too, not a@{$this->person('wen')->name}";
        $this->change([self::made('remark', 'remark-new', ['project' => 'prj-GRID', 'activity' => 'act-grid-ca-0050', 'text' => $text,
            'todo' => true])])
            ->assertOk();
        $this->change([self::update('remark', 'remark-new', ['text' => "{$text}!"])])->assertOk();
        $this->change([self::update('remark', 'remark-new', ['done' => true])])->assertOk();
        self::assertSame([$chidi->id], DB::table('notices')->pluck('user_id')->all());
        $this->actingAs($chidi);
        $notices = $this->getJson('/api/v1/notices')->assertOk();
        self::assertEquals(['author' => 'Ilse Marbach', 'activity' => 'act-grid-ca-0050', 'project' => 'GRID', 'read' => false],
            array_intersect_key($notices->json('notices.0'), array_flip(['author', 'activity', 'project', 'read'])));
        $this->postJson('/api/v1/notices/read', ['upTo' => $notices->json('notices.0.id')])->assertNoContent();
        self::assertTrue($this->getJson('/api/v1/notices')->json('notices.0.read'));
        DB::table('grants')->where('user_id', $chidi->id)->delete();
        self::assertSame([], $this->getJson('/api/v1/notices')->json('notices'), 'what is out of reach now is not told');
    }

    public function test_names_that_begin_alike_are_told_apart(): void
    {
        $person = static fn (string $name): User => new User(['name' => $name]);
        $people = [$person('Ana Li'), $person('Ana Lindt'), $person('Öz')];
        $names = static fn (string $text): array => array_map(static fn (User $u): string => $u->name, Notices::mentioned($text, $people));
        self::assertSame(['Ana Lindt'], $names('ask @ana lindt.'));
        self::assertSame(['Ana Lindt', 'Ana Li'], $names('@Ana Li and @Ana Lindt'));
        self::assertSame(['Öz'], $names('(@öz)'));
        self::assertSame([], $names('mail@Öz, @Özil'));
    }

    /** On every kind that takes them: answered, moved with what they are about, gone with it and back. */
    public function test_projects_elements_activities_and_handovers_take_remarks_and_answers(): void
    {
        $this->actingAs($this->person('ilse'));
        $link = (string) DB::table('links')->where('handover', true)->join('projects as p', 'p.id', '=', 'links.to_project_id')
            ->where('p.key', 'LYNG')->value('links.uid');
        $about = ['project' => ['prj-GRID', 'prj-GRID', []], 'wbs' => ['wbs-grid-ca', 'prj-GRID', ['wbs' => 'wbs-grid-ca']],
            'activity' => [self::ACTIVITY, 'prj-GRID', ['activity' => self::ACTIVITY]], 'link' => [$link, 'prj-LYNG', ['link' => $link]]];
        foreach ($about as $kind => [$uid, $project, $on]) {
            $make = static fn (string $name, array $more): array => self::made('remark', "{$kind}-{$name}",
                ['project' => $project, 'text' => "{$kind} {$name}"] + $on + $more);
            $this->change([$make('old', []), $make('new', []), $make('todo', ['todo' => true])])->assertOk();
            $this->change([$make('a1', ['answers' => "{$kind}-old"])])->assertOk();
            $this->change([$make('a2', ['answers' => "{$kind}-old"]), $make('a3', ['answers' => "{$kind}-new"])])->assertOk();
            // an answer is none of an answer, of itself, or of what is about something else; no two lead to each other
            foreach ([['a4', ['answers' => "{$kind}-a1"]], ['a4', ['answers' => "{$kind}-a4"]]] as [$name, $wrong]) {
                $this->change([$make($name, $wrong)])->assertStatus(422);
            }
            $this->change([self::update('remark', "{$kind}-old", ['answers' => "{$kind}-a1"])])->assertStatus(422);
            $this->change([self::update('remark', "{$kind}-old", ['answers' => "{$kind}-a1"]),
                self::gone('remark', "{$kind}-old")], ['dryRun' => true])->assertOk(); // each of the two goes once
            $told = $this->getJson("/api/v1/remarks/{$kind}/{$uid}")->assertOk();
            $names = array_map(static fn (array $r): string => explode('-', (string) $r['uid'])[1], $told->json('remarks'));
            self::assertSame(['todo', 'new', 'a3', 'old', 'a1', 'a2'], $names, $kind);
            self::assertSame([3, "{$kind}-old"], [$told->json('total'), $told->json('remarks.5.answers')]);
            // who deletes what began a talk deletes it all, and undo brings it back
            $before = $this->everything();
            $gone = $this->change([self::gone('remark', "{$kind}-old")])->assertOk()->json('changeSet');
            self::assertCount(3, $this->getJson("/api/v1/remarks/{$kind}/{$uid}")->json('remarks'));
            $this->postJson("/api/v1/changes/{$gone}/undo")->assertOk();
            self::assertEquals($before, $this->everything());
        }
        $gone = $this->change([self::gone('link', $link)])->assertOk()->json('changeSet');
        $this->getJson("/api/v1/remarks/link/{$link}")->assertNotFound();
        $this->postJson("/api/v1/changes/{$gone}/undo")->assertOk();
        self::assertCount(6, $this->getJson("/api/v1/remarks/link/{$link}")->json('remarks'));
        // an activity that moves takes those on itself and on the links into it along
        $to = (string) DB::table('links')->join('activities as a', 'a.id', '=', 'links.to_id')->where('links.uid', $link)->value('a.uid');
        $this->change([self::update('activity', $to, ['project' => 'prj-TERN', 'wbs' => null])])->assertOk();
        self::assertSame(['prj-TERN'], DB::table('remarks')->join('projects', 'projects.id', '=', 'remarks.project_id')
            ->where('remarks.uid', 'like', 'link-%')->distinct()->pluck('projects.uid')->all());
        // what does not go together is refused
        foreach ([['wbs' => 'wbs-grid-ca', 'activity' => self::ACTIVITY], ['wbs' => 'wbs-ostv-to'], ['activity' => 'act-ostv-to-0030'],
            ['answers' => 'none'], ['answers' => 'wrong'], ['link' => $link]] as $n => $wrong) {
            $this->change([self::made('remark', 'wrong', ['project' => 'prj-GRID', 'text' => 'x'] + $wrong)])->assertStatus(422);
        }
    }

    /** Two thousand on one activity come page by page, the newest first. */
    public function test_many_come_in_pages(): void
    {
        $this->actingAs($this->person('ilse'));
        $many = [];
        for ($n = 1; $n <= 2000; $n++) {
            $many[] = self::made('remark', "r{$n}", ['project' => 'prj-GRID', 'activity' => self::ACTIVITY, 'text' => "Number {$n}"]);
        }
        $this->change($many)->assertOk();
        $first = $this->getJson($this->path())->assertOk();
        self::assertSame([2000, 67, 30, 'Number 2000'], [$first->json('total'), $first->json('pages'), count($first->json('remarks')),
            $first->json('remarks.0.text')]);
        self::assertSame('Number 20', $this->getJson($this->path().'?page=67')->json('remarks.0.text'));
        self::assertSame([], $this->getJson($this->path().'?page=68')->json('remarks'));
        $this->getJson($this->path().'?page=0')->assertStatus(422);
    }

    public function test_what_somebody_has_to_do_is_told_from_all_projects(): void
    {
        $this->actingAs($this->person('ilse'));
        $chidi = $this->person('chidi');
        $at = DB::table('projects')->where('uid', 'prj-OSTV')->value('branch_id');
        DB::table('grants')->insert(['user_id' => $chidi->id, 'branch_id' => $at, 'role' => 'viewer']);
        $this->change([self::update('project', 'prj-OSTV', ['lead' => $chidi->name]),
            self::update('activity', self::ACTIVITY, ['lead' => $chidi->name]),
            self::made('remark', 'm', ['project' => 'prj-GRID', 'text' => "@{$chidi->name} look", 'todo' => true]),
            self::made('remark', 'almost', ['project' => 'prj-GRID', 'text' => "@{$chidi->name}son look", 'todo' => true]),
            self::made('remark', 'led', ['project' => 'prj-OSTV', 'wbs' => 'wbs-ostv-to', 'text' => 'x', 'todo' => true]),
            self::made('remark', 'his', ['project' => 'prj-GRID', 'activity' => self::ACTIVITY, 'text' => 'y', 'todo' => true]),
            self::made('remark', 'done', ['project' => 'prj-OSTV', 'text' => 'x', 'todo' => true, 'done' => true]),
            self::made('remark', 'other', ['project' => 'prj-TERN', 'text' => 'x', 'todo' => true]),
            self::made('remark', 'plain', ['project' => 'prj-OSTV', 'text' => 'x'])])->assertOk();
        $of = fn (User $user): array => array_column($this->actingAs($user)->getJson('/api/v1/todos')->assertOk()->json('todos'), 'why',
            'uid');
        self::assertEquals(['m' => 'mentioned', 'led' => 'responsible', 'his' => 'responsible'], $of($chidi));
        self::assertSame('own', $of($this->person('ilse'))['other'] ?? null);
        $this->getJson('/api/v1/todos')->assertJsonPath('todos.0.project', 'TERN')->assertJsonPath('todos.0.row', 'prj-TERN');
        DB::table('grants')->where('user_id', $chidi->id)->delete();
        self::assertSame([], $of($chidi));
    }

    /** Of branches: said once, answered, done, taken back; told to who sees the branch and to nobody else, before and after it is lost. */
    public function test_branches_take_remarks_that_only_who_sees_them_is_told(): void
    {
        $ilse = $this->actingAs($this->person('ilse'))->person('ilse');
        $branch = $this->branch('Dry dock');
        $at = "/api/v1/branches/{$branch}/remarks";
        $chidi = $this->person('chidi');
        DB::table('grants')->where('user_id', $chidi->id)->delete();
        $id = (int) DB::table('branches')->where('uid', $branch)->value('id');
        DB::table('grants')->insert(['user_id' => $chidi->id, 'branch_id' => $id, 'role' => 'viewer']);
        $stranger = $this->somebody('administrator', 'Grid and energy');
        $text = "@{$chidi->name} and @{$stranger->name}: crane Qqhidden";
        foreach ([1, 2] as $sent) {
            $this->putJson("{$at}/b1", ['text' => $text, 'todo' => true])->assertNoContent();
        }
        $this->putJson("{$at}/b1", ['text' => 'other'])->assertStatus(422);
        $this->putJson('/api/v1/branches/'.$this->branch('Fleet').'/remarks/b1', ['text' => $text])->assertStatus(422);
        $this->putJson("{$at}/b2", ['text' => 'answer', 'answers' => 'b1'])->assertNoContent();
        foreach ([['answers' => 'b2'], ['answers' => 'none'], ['text' => ' '], ['text' => str_repeat('x', 4001)]] as $wrong) {
            $this->putJson("{$at}/b3", $wrong + ['text' => 'x'])->assertStatus(422);
        }
        $this->putJson("{$at}/77", ['text' => 'x'])->assertNotFound(); // no uid
        $this->patchJson("{$at}/b2", ['done' => true])->assertStatus(422);
        $told = fn (User $who, string $path): string => (string) $this->actingAs($who)->getJson("/api/v1/{$path}")->getContent();
        $paths = ["remarks/branch/{$branch}", 'todos', 'notices', 'search?q=Qqhidden'];
        $tells = static fn (string $content): bool => str_contains(str_replace('+', ' ', $content), 'crane Qqhidden');
        foreach ($paths as $path) {
            self::assertSame($path !== 'notices', $tells($told($ilse, $path)), $path);
            self::assertTrue($tells($told($chidi, $path)), $path);
            self::assertFalse($tells($told($stranger, $path)), $path);
        }
        foreach (['changes', 'history/steps', 'history/deleted', 'portfolio'] as $path) {
            self::assertFalse($tells($told($ilse, $path)), $path);
        }
        $this->actingAs($ilse)->getJson("/api/v1/remarks/branch/{$branch}")->assertJsonPath('remarks.1.answers', 'b1')
            ->assertJsonPath('total', 1);
        $this->patchJson("{$at}/b1", ['removed' => true])->assertNoContent();
        $this->getJson("/api/v1/remarks/branch/{$branch}")->assertJsonPath('remarks', []);
        self::assertFalse($tells($told($ilse, 'search?q=answer')) || $tells($told($ilse, 'todos')));
        $this->patchJson("{$at}/b1", ['removed' => false])->assertNoContent();
        $this->patchJson("{$at}/b1", ['done' => true])->assertNoContent();
        self::assertFalse($tells($told($chidi, 'todos')), 'what is done is to be done no more');
        $this->actingAs($chidi)->putJson("{$at}/b4", ['text' => 'x'])->assertForbidden();
        DB::table('grants')->where('user_id', $chidi->id)->delete();
        foreach ($paths as $path) {
            self::assertFalse($tells($told($chidi, $path)), "{$path} afterwards");
        }
        // what is archived rests
        $this->actingAs($ilse);
        $this->change([self::update('branch', $branch, ['archived' => true])])->assertOk();
        $this->putJson("{$at}/b5", ['text' => 'x'])->assertStatus(422);
        // while the branch is gone its remarks rest with it
        $this->change([self::update('branch', $branch, ['archived' => false])])->assertOk();
        $this->change([self::made('branch', 'qq', ['parent' => $branch, 'name' => 'Qq'])])->assertOk();
        $this->putJson('/api/v1/branches/qq/remarks/q1', ['text' => 'stays'])->assertNoContent();
        $gone = $this->change([self::gone('branch', 'qq')])->assertOk()->json('changeSet');
        $this->getJson('/api/v1/remarks/branch/qq')->assertNotFound();
        $this->postJson("/api/v1/changes/{$gone}/undo")->assertOk();
        $this->getJson('/api/v1/remarks/branch/qq')->assertJsonPath('remarks.0.text', 'stays');
    }
}

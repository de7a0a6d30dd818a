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
        $this->getJson($this->path())->assertOk()->assertExactJson(['objects' => [['uid' => 'r1',
            'fields' => ['activity' => self::ACTIVITY, 'text' => "First line\nsecond", 'author' => 'Ilse Marbach',
                'written' => '2026-11-25T12:00', 'todo' => false, 'done' => false, 'about' => '']]]]);
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
        $this->getJson($this->path())->assertJsonPath('objects.0.fields.text', 'Check the cable')
            ->assertJsonPath('objects.0.fields.author', 'Ilse Marbach');
        self::assertEquals($before, $this->everything());
        $undone = $this->postJson("/api/v1/changes/{$made}/undo")->assertOk()->json('changeSet');
        $this->getJson($this->path())->assertExactJson(['objects' => []]);
        $this->postJson("/api/v1/changes/{$undone}/undo")->assertOk();
        $this->getJson($this->path())->assertJsonPath('objects.0.fields.written', '2026-11-25T12:00');
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
        $absent = $this->getJson('/api/v1/activities/none/objects/remark')->assertNotFound();
        self::assertSame($absent->getContent(), $this->getJson($this->path())->assertNotFound()->getContent());
        $this->change([self::update('remark', 'r1', ['text' => 'x'])])->assertStatus(422)
            ->assertJsonPath('errors.0.detail', 'this remark does not exist (any more)');
        $this->remark('r2', ['text' => 'x'])->assertStatus(422)->assertJsonPath('errors.0.detail', 'does not exist');
        $this->actingAs($this->somebody('viewer'));
        $this->getJson($this->path())->assertOk();
        $this->remark('r2', ['text' => 'x'])->assertForbidden();
        $this->getJson('/api/v1/activities/'.self::ACTIVITY.'/objects/activity')->assertNotFound();
    }

    public function test_the_documents_follow_the_catalogue_of_fields(): void
    {
        $this->artisan('reihe:catalogue', ['--check' => true])->assertSuccessful();
    }

    /** @param  array<string, mixed>  $fields */
    private function remark(string $uid, array $fields): \Illuminate\Testing\TestResponse
    {
        return $this->change([['verb' => 'create', 'kind' => 'remark', 'uid' => $uid,
            'after' => $fields + ['activity' => self::ACTIVITY]]]);
    }

    private function path(): string
    {
        return '/api/v1/activities/'.self::ACTIVITY.'/objects/remark';
    }

    public function test_who_is_mentioned_and_sees_the_project_gets_one_notice(): void
    {
        $this->actingAs($this->person('ilse'));
        $outside = $this->somebody(null);
        $outside->forceFill(['name' => 'Aino Out'])->save();
        $chidi = $this->person('chidi');
        $far = $this->person('aino')->name; // plans the fleet, and does not see this project
        $text = "@{$chidi->name} please look, @{$far} and @Aino Out too, not a@{$this->person('wen')->name}";
        $this->change([self::made('remark', 'remark-new', ['activity' => 'act-grid-ca-0050', 'text' => $text, 'todo' => true])])
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
}

<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\User;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\DataProvider;

/** A file that updates leaves what its reader may not plan as it is: the other ends of handovers stay, nothing comes twice. */
final class BeyondReachTest extends TestCase
{
    /** @return iterable<string, array{string, string, bool, bool}> what GRID is to the reader, format, from elsewhere, both in the file */
    public static function files(): iterable
    {
        foreach (['hidden', 'viewed', 'archived'] as $grid) {
            foreach (['plan-xml', 'icalendar', 'xcal', 'jcal'] as $format) {
                foreach ($format === 'plan-xml' ? [false, true] : [false] as $foreign) {
                    foreach ([true, false] as $both) {
                        yield "{$grid}, {$format}".($foreign ? ' from elsewhere' : '').($both ? ', both' : ', one') => [$grid, $format,
                            $foreign, $both];
                    }
                }
            }
        }
    }

    #[DataProvider('files')]
    public function test_what_may_not_be_planned_stays_as_it_is(string $grid, string $format, bool $foreign, bool $both): void
    {
        $this->actingAs($this->person('ilse'));
        $file = $this->exported($both ? 'OSTV,GRID' : 'OSTV', $format);
        if ($foreign) {
            $file = (string) preg_replace(['/ uid="/', '/ of="/', '/ made="/', '/source="reihe:/'],
                ['$0x-', '$0x-', '$0x-', 'source="yard:'],
                $file);
            $this->taken($file, $this->person('ilse'), []); // so that the source is known
            $this->import($file, [])->assertCreated()->assertJsonPath('update.states.new', 0);
        }
        $reader = $this->reader($grid);
        $handovers = $this->handovers();
        self::assertNotSame([], $handovers);
        $state = $this->state();
        foreach ([[], ['fileWins' => '1'], ['deleteMissing' => '1', 'fileWins' => '1']] as $wish) {
            $this->actingAs($reader);
            $preview = $this->import($file, $wish)->assertCreated();
            $this->assertSilent($preview->getContent(), $grid);
            self::assertSame([0, 0], [$preview->json('update.states.new'), $preview->json('update.states.missing')],
                json_encode($preview->json('update')) ?: '');
            self::assertSame([], $preview->json('projects'));
            if ($both) {
                self::assertContains('beyond', array_column($preview->json('mapping'), 'how', 'label'));
                self::assertNotSame([], preg_grep('/^GRID stays as it is: /', $preview->json('notes')));
            }
            $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
            self::assertSame($state, $this->state());
            $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/undo")->assertOk();
            self::assertSame($state, $this->state());
        }
        // a real change arrives, what stands at the other end does not move, and it is undone
        $changed = $format === 'plan-xml' ? str_replace('Cable route survey', 'Survey of the route', $file) : $file;
        $this->actingAs($reader);
        $preview = $this->import($changed, ['fileWins' => '1'])->assertCreated();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
        self::assertSame($handovers, $this->handovers());
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/undo")->assertOk();
        self::assertSame($state, $this->state());
        $this->assertResultsAreTrue();
    }

    public function test_a_copy_that_is_asked_for_takes_no_handovers_away(): void
    {
        $this->actingAs($this->person('ilse'));
        $file = $this->exported('OSTV,GRID', 'plan-xml');
        $uid = (string) DB::table('projects')->where('key', 'GRID')->value('uid');
        $this->actingAs($this->reader('hidden'));
        $handovers = $this->handovers();
        $preview = $this->import($file, ['mapping' => (string) json_encode(['project' => [$uid => '']])])->assertCreated();
        self::assertSame(['GRID2'], array_column($preview->json('projects'), 'key'));
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
        self::assertSame($handovers, array_intersect_key($this->handovers(), $handovers));
        self::assertNotSame([], preg_grep('/^The handover .* stays where it is\.$/', $preview->json('notes')));
        $this->assertResultsAreTrue();
    }

    public function test_a_handover_to_what_is_hidden_is_deleted_and_comes_back(): void
    {
        $link = DB::table('links as l')->join('projects as t', 't.id', '=', 'l.to_project_id')
            ->join('activities as a', 'a.id', '=', 'l.from_id')
            ->join('projects as f', 'f.id', '=', 'a.project_id')->where('f.key', 'GRID')->where('t.key', 'OSTV')->value('l.uid');
        $this->actingAs($this->reader('hidden'));
        $state = $this->state();
        $change = $this->change([self::gone('link', (string) $link)])->assertOk()->json('changeSet');
        $undone = $this->postJson("/api/v1/changes/{$change}/undo")->assertOk();
        self::assertSame($state, $this->state());
        $this->postJson("/api/v1/changes/{$undone->json('changeSet')}/undo")->assertOk();
        self::assertFalse(DB::table('links')->where('uid', $link)->exists());
    }

    #[DataProvider('keptKinds')]
    public function test_what_is_kept_for_copying_is_updated_and_not_made_twice(string $kept): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('project', 'kept', ['key' => 'KEPT', 'name' => 'Kept', 'branch' => $this->branch('Archive'),
            'calendar' => DB::table('calendars')->value('uid'), 'start' => '2027-01-04T08:00', 'kept' => $kept]),
            self::made('activity', 'kept-a', ['project' => 'kept', 'code' => 'A', 'name' => 'First', 'duration' => 480])])->assertOk();
        $file = str_replace('"First"', '"Second"', $this->exported('KEPT', 'plan-xml'));
        $count = DB::table('projects')->count();
        $this->taken($file, $this->person('ilse'), []);
        self::assertSame([$count, 'Second', $kept], [DB::table('projects')->count(),
            DB::table('activities')->where('uid', 'kept-a')->value('name'), DB::table('projects')->where('uid', 'kept')->value('kept')]);
    }

    /** @return iterable<string, array{string}> */
    public static function keptKinds(): iterable
    {
        yield 'template' => ['template'];
        yield 'fragment' => ['fragment'];
    }

    private function reader(string $grid): User
    {
        $branch = (string) DB::table('projects as p')->join('branches as b', 'b.id', '=', 'p.branch_id')->where('p.key', 'OSTV')
            ->value('b.name');
        $reader = $this->somebody('planner', $branch);
        if ($grid === 'hidden' || $grid === 'viewed') {
            DB::table('branches')->insert(['uid' => 'apart', 'parent_id' => $this->branchId('Varnsund Ferries'), 'name' => 'Apart',
                'position' => 99, 'path' => '/']);
            $id = (int) DB::table('branches')->where('uid', 'apart')->value('id');
            DB::table('branches')->where('id', $id)
                ->update(['path' => DB::table('branches')->where('name', 'Varnsund Ferries')->value('path')
                ."{$id}/"]);
            DB::table('projects')->where('key', 'GRID')->update(['branch_id' => $id]);
            $grid === 'hidden' ?: DB::table('grants')->insert(['user_id' => $reader->id, 'branch_id' => $id, 'role' => 'viewer']);
        } else {
            DB::table('projects')->where('key', 'GRID')->update(['branch_id' => DB::table('projects')->where('key', 'OSTV')
                ->value('branch_id'), 'archived' => true]);
        }

        return $reader;
    }

    /** No uid of ours, and nothing that is hidden, is said but the key that the file says itself. */
    private function assertSilent(string|false $answer, string $grid): void
    {
        $said = (string) preg_replace('/"(changeSet|uid|to|within|foreign)":"[^"]*"/', '', (string) $answer);
        foreach (DB::table('activities')->pluck('uid') as $uid) {
            self::assertStringNotContainsString((string) $uid, $said);
        }
    }

    /** @return array<string, string> links between projects => their ends */
    private function handovers(): array
    {
        return DB::table('links as l')->join('activities as a', 'a.id', '=', 'l.from_id')->join('activities as b', 'b.id', '=', 'l.to_id')
            ->whereColumn('a.project_id', '!=', 'b.project_id')->orderBy('l.uid')
            ->selectRaw("l.uid, CONCAT(a.uid, ' ', b.uid, ' ', l.type, ' ', l.lag) AS ends")->pluck('ends', 'uid')->all();
    }

    /** @return array<string, mixed> */
    private function state(): array
    {
        return [$this->handovers(), DB::table('projects')->orderBy('id')->pluck('key')->all(), DB::table('activities')->orderBy('uid')
            ->pluck('name', 'uid')->all(), DB::table('links')->count(), DB::table('wbs_elements')->count(), DB::table('calendars')->count(),
            DB::table('code_entries')->count(), DB::table('branches')->count()];
    }

    private function exported(string $keys, string $format): string
    {
        return (string) $this->get("/api/v1/exchange/export?projects={$keys}&format={$format}")->assertOk()->getContent();
    }

    /** @param  array<string, string>  $wish */
    private function import(string $file, array $wish): \Illuminate\Testing\TestResponse
    {
        $branch = (string) DB::table('projects as p')->join('branches as b', 'b.id', '=', 'p.branch_id')->where('p.key', 'OSTV')
            ->value('b.name');

        return $this->post('/api/v1/exchange/import', $wish + ['update' => '1', 'branch' => $this->branch($branch),
            'file' => UploadedFile::fake()->createWithContent('x.xml', $file)], ['Accept' => 'application/json']);
    }

    /** @param  array<string, string>  $wish */
    private function taken(string $file, User $who, array $wish): void
    {
        $this->actingAs($who);
        $uid = $this->import($file, $wish)->assertCreated()->json('changeSet');
        $answer = $this->postJson("/api/v1/changes/{$uid}/apply");
        self::assertSame(200, $answer->status(), (string) $answer->getContent());
    }
}

<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Formats\PlanXml\Hierarchy;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\Tests\FilledPlan;

/** What is written here and read by an installation that has nothing is written by that one to the letter. */
final class FreshInstanceTest extends TestCase
{
    use Travels;

    public function test_everything_travels_to_a_fresh_instance_and_back(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->taken($this->filled());
        $keys = DB::table('projects')->orderBy('id')->pluck('key')->implode(',');
        $file = $this->exported($keys);
        foreach (EntityKind::cases() as $kind) {
            $name = ['coding' => 'code', 'ownValue' => 'own', 'openEnd' => 'openEnd'][$kind->value] ?? $kind->value;
            self::assertMatchesRegularExpression("/<{$name}[ >]/", $file, "no {$kind->value} is tried");
        }
        $dates = $this->dates();
        $this->emptied();
        self::assertSame([0, 1], [DB::table('projects')->count(), DB::table('branches')->count()]);
        $notes = $this->taken($file);
        self::assertSame(self::plain($file), self::plain($this->exported($keys)));
        self::assertSame($dates, $this->dates());
        self::assertStringContainsString('All '.count($dates).' activities have the dates', implode(' ', $notes));
        $this->assertResultsAreTrue();
        // the whole of it is one step
        $change = DB::table('change_sets')->orderByDesc('id')->value('uid');
        $this->postJson("/api/v1/changes/{$change}/undo")->assertOk();
        self::assertSame([0, 1, 0], [DB::table('projects')->count(), DB::table('branches')->count(), DB::table('code_sets')->count()]);
    }

    public function test_branches_are_found_by_their_names_or_made_when_that_is_asked_for(): void
    {
        $this->actingAs($this->person('ilse'));
        $file = str_replace(['Varnsund Ferries/', 'uid="prj-grid"'], ['Varnsund Ferries/New ∕ old/', 'uid="prj-else"'],
            $this->exported('GRID'));
        self::assertMatchesRegularExpression('#<branch path="Varnsund Ferries/New ∕ old/[^"/]*"#', $file);
        $branch = static fn (string $key): string => (string) DB::table('projects as p')->join('branches as b', 'b.id', '=', 'p.branch_id')
            ->join('branches as c', 'c.id', '=', 'b.parent_id')->where('p.key', $key)->value(DB::raw("CONCAT(c.name, ' > ', b.name)"));
        $was = $branch('GRID');
        [, $name] = explode(' > ', $was);
        $count = DB::table('branches')->count();
        $this->taken($file, ['update' => '0', 'branches' => '0']);
        self::assertSame('Varnsund Ferries', DB::table('projects as p')->join('branches as b', 'b.id', '=', 'p.branch_id')
            ->where('p.key', 'GRID2')->value('b.name'));
        self::assertContains("New branches: New / old, New / old › {$name}.", $this->taken($file, ['update' => '0']));
        self::assertSame(["New / old > {$name}", $count + 2], [$branch('GRID3'), DB::table('branches')->count()]);
        $this->taken($file, ['update' => '0']);
        self::assertSame(["New / old > {$name}", $count + 2], [$branch('GRID4'), DB::table('branches')->count()], 'found again');
        // a branch of the same name stands for the one in the file; what is here stays where it is
        $this->taken($file, ['update' => '0'], 'New / old');
        self::assertSame(["New / old > {$name}", $count + 2], [$branch('GRID5'), DB::table('branches')->count()]);
        $this->taken($this->exported('GRID'));
        self::assertSame([$was, $count + 2], [$branch('GRID'), DB::table('branches')->count()]);
        // whoever may not plan there makes none
        $this->actingAs($this->somebody('planner', 'Archive'));
        $this->taken($file, ['update' => '0'], 'Archive');
        self::assertSame("New / old > {$name}", $branch('GRID6'));
        self::assertSame(1, DB::table('branches as b')->join('branches as c', 'c.id', '=', 'b.parent_id')->where('b.name', 'New / old')
            ->where('c.name', 'Varnsund Ferries')->count());
        $this->actingAs($this->somebody('viewer'));
        $this->post('/api/v1/exchange/import', ['branch' => $this->branch('Archive'), 'branches' => '1',
            'file' => UploadedFile::fake()->createWithContent('a.xml', $file)], ['Accept' => 'application/json'])->assertForbidden();
    }

    public function test_an_undo_leaves_a_branch_that_somebody_uses_by_now(): void
    {
        $this->actingAs($this->person('ilse'));
        $file = str_replace('Varnsund Ferries/', 'Varnsund Ferries/2029/', $this->exported('GRID'));
        $this->taken($file, ['update' => '0']);
        $change = DB::table('change_sets')->orderByDesc('id')->value('uid');
        $this->change([self::made('project', 'theirs', ['key' => 'THEIRS', 'name' => 'Theirs', 'branch' => $this->branch('2029'),
            'calendar' => DB::table('calendars')->value('uid'), 'start' => '2027-01-04T08:00'])])->assertOk();
        $state = fn (): array => [DB::table('projects')->count(), DB::table('branches')->count(), DB::table('activities')->count()];
        $before = $state();
        $answer = $this->postJson("/api/v1/changes/{$change}/undo");
        self::assertContains($answer->status(), [409, 422], (string) $answer->getContent());
        self::assertNotSame('', (string) $answer->json('detail'));
        self::assertSame($before, $state());
        $this->change([['verb' => 'delete', 'kind' => 'project', 'uid' => 'theirs']])->assertOk();
        $this->postJson("/api/v1/changes/{$change}/undo")->assertOk();
        self::assertSame(0, DB::table('branches')->where('name', '2029')->count());
        $this->assertResultsAreTrue();
    }

    public function test_two_people_bring_the_same_hierarchy(): void
    {
        $this->actingAs($this->person('ilse'));
        $file = str_replace('Varnsund Ferries/', 'Varnsund Ferries/2028/', $this->exported('GRID'));
        $previews = [];
        $ilse = $this->person('ilse');
        foreach ([$ilse, $this->somebody('planner'), $ilse] as $person) {
            $this->actingAs($person);
            $previews[] = [$person, $this->post('/api/v1/exchange/import', ['branch' => $this->branch('Varnsund Ferries'),
                'branches' => '1',
                'update' => '0', 'file' => UploadedFile::fake()->createWithContent('a.plan.xml', $file)], ['Accept' => 'application/json'])
                ->assertCreated()->json('changeSet')];
        }
        $answers = [];
        foreach ($previews as [$person, $uid]) {
            $this->actingAs($person);
            $before = DB::table('projects')->count() + DB::table('branches')->count();
            $answer = $this->postJson("/api/v1/changes/{$uid}/apply");
            $answers[] = $answer->status();
            $answer->status() === 200 ?: self::assertSame([$before, false], [DB::table('projects')->count() + DB::table('branches')
                ->count(),
                $answer->json('detail') === null]);
        }
        self::assertSame(200, $answers[0]);
        self::assertSame([], array_diff($answers, [200, 409, 422]));
        self::assertSame(1, DB::table('branches')->where('name', '2028')->count());
        // a second look finds what the first made
        $this->actingAs($this->person('ilse'));
        $this->taken($file, ['update' => '0']);
        self::assertSame(1, DB::table('branches')->where('name', '2028')->count());
        $this->assertResultsAreTrue();
    }

    public function test_a_baseline_that_came_to_be_later_arrives_with_an_update_once(): void
    {
        $this->actingAs($this->person('ilse'));
        $file = str_replace('source="reihe:', 'source="yard:', $this->exported('GRID'));
        $this->taken($file, ['update' => '0']);
        $second = (string) preg_replace('/(<baseline uid=")[^"]*(" name=")([^"]*)(".*?<\/baseline>)/s', '$0$1again$2Second$4', $file, 1);
        $second = (string) preg_replace('/current="true"/', 'current="false"', $second, 1);
        self::assertContains('1 baseline comes along.', $this->taken($second));
        $copy = fn (): array => DB::table('baselines as b')->join('projects as p', 'p.uid', '=', 'b.project_uid')->where('p.key', 'GRID2')
            ->orderBy('b.id')->pluck('b.current', 'b.name')->all();
        self::assertSame(['Approved plan' => 1, 'Second' => 0], $copy());
        self::assertSame(DB::table('baseline_rows as r')->join('baselines as b', 'b.id', '=', 'r.baseline_id')->where('b.uid', 'again')
            ->where('r.kind', 'activity')->join('activities as a', 'a.uid', '=', 'r.uid')->count(),
            DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')->where('p.key', 'GRID2')->count());
        self::assertNotContains('1 baseline comes along.', $this->taken($second));
        self::assertCount(2, $copy());
        $empty = DB::table('change_sets')->orderByDesc('id')->first(['uid', 'operation_count', 'state']);
        self::assertSame([0, 'applied'], [$empty->operation_count, $empty->state]);
        $this->postJson("/api/v1/changes/{$empty->uid}/undo")->assertOk();
        self::assertSame('undone', DB::table('change_sets')->where('uid', $empty->uid)->value('state'));
    }

    public function test_it_is_said_where_money_and_clocks_mean_something_else(): void
    {
        $this->actingAs($this->person('ilse'));
        $file = $this->exported('GRID');
        self::assertStringContainsString('currency="EUR"', $file);
        $notes = $this->taken(str_replace(['currency="EUR"', 'timeZone="UTC"'], ['currency="SEK"', 'timeZone="Europe/Stockholm"'], $file),
            ['update' => '0']);
        self::assertContains('Costs are in SEK there and in EUR here; the amounts were taken as they are.', $notes);
        self::assertContains('The clock there is that of Europe/Stockholm, here that of UTC; times of day were taken as they are.', $notes);
        self::assertSame([], preg_grep('/ there .* here/', $this->taken($file, ['update' => '0'])));
    }

    /** A plan with every kind, on branches of its own, with a baseline. */
    private function filled(): string
    {
        $plan = FilledPlan::make(4);
        $schedule = Schedule::of($plan);

        return PlanXmlWriter::write($plan, new Told(13_000_000, 'filled', $schedule,
            [[Baseline::take($schedule, RollUp::of($schedule), 'p0', 'base', 'First', 13_000_000), true]],
            new Hierarchy(['2027' => ['lead' => 'Åse', 'archived' => false], '2027/Away ∕ off' => ['lead' => null, 'archived' => true],
                '2027/1' => ['lead' => null, 'archived' => false]], ['p0' => '2027', 'p1' => '2027/Away ∕ off', 'p2' => '2027/1'])));
    }
}

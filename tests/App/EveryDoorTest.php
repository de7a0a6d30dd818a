<?php

declare(strict_types=1);

namespace Tests\App;

use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Tells;

/**
 * Every kind that projects have goes through every door: a new kind without its place fails here. What is typed, undone and compared field
 * by
 * field is in {@see EveryFieldTest}, second files in {@see SecondFileTest}. Tables are of rows alone, and calendars say what they carry.
 */
final class EveryDoorTest extends TestCase
{
    use EveryObject;
    use Travels;

    protected function setUp(): void
    {
        parent::setUp();
        $this->objects();
    }

    public function test_every_kind_is_tried(): void
    {
        self::assertEqualsCanonicalizing(array_map(static fn (EntityKind $k): string => $k->value, EntityKind::inProjects()),
            array_keys(self::ours()));
        $plan = $this->plan();
        foreach (self::ours() as $kind => $uid) {
            self::assertSame('prj-GRID', $plan->ownerOf(EntityKind::from($kind), $uid), $kind);
        }
    }

    public function test_a_draft_and_the_proposal_of_it_make_the_same(): void
    {
        $made = (string) DB::table('change_sets')->orderByDesc('id')->value('uid');
        $expected = $this->plan();
        $this->postJson("/api/v1/changes/{$made}/undo")->assertOk();
        $before = $this->plan();
        $draft = $this->postJson('/api/v1/drafts', ['name' => 'All kinds'])->assertCreated()->json('uid');
        $this->postJson("/api/v1/changes?draft={$draft}", ['operations' => self::operations()])->assertOk();
        $this->assertSamePlan($before, $this->plan());
        $this->getJson("/api/v1/drafts/{$draft}/board?projects=GRID")->assertOk();
        $proposal = $this->postJson("/api/v1/drafts/{$draft}/propose")->assertCreated()->json('changeSet');
        $this->postJson("/api/v1/changes/{$proposal}/apply")->assertOk();
        $this->assertSamePlan($expected, $this->plan());
        $this->postJson("/api/v1/changes/{$proposal}/undo")->assertOk();
        $this->assertSamePlan($before, $this->plan());
    }

    public function test_a_file_carries_them_to_an_instance_that_has_nothing_and_back(): void
    {
        $before = $this->plan();
        $file = $this->exported('GRID,CREW');
        $this->emptied();
        $this->taken($file);
        $plan = $this->plan();
        foreach (EntityKind::inProjects() as $kind) {
            $written = static fn (Plan $of): array => array_map(static fn ($e): array => array_diff_key($e->fields(), ['position' => 0]),
                array_filter($of->all($kind), static fn (string $uid): bool => in_array($of->ownerOf($kind, $uid), ['prj-GRID', 'prj-CREW'],
                    true), ARRAY_FILTER_USE_KEY));
            [$was, $is] = [$written($before), $written($plan)];
            if ($kind === EntityKind::Link) { // those with projects that did not come are ends outside
                $was = array_intersect_key($was, $is);
            }
            self::assertArrayHasKey(self::ours()[$kind->value], $is, $kind->value);
            self::assertEquals($was, $is, $kind->value);
        }
    }

    public function test_copies_and_templates_have_what_copies_have(): void
    {
        $copy = fn (string $of, string $key, array $more): string => $this->postJson('/api/v1/compose/copy', $more + ['projects' => [
            ['uid' => $of, 'key' => $key, 'name' => $key]], 'branch' => $this->branch('Fleet')])->assertOk()->json('projects.0');
        $template = $copy('prj-GRID', 'TPL', ['kept' => 'template']);
        $again = $copy($template, 'AGAIN', []);
        $plan = $this->plan();
        foreach (EntityKind::inProjects() as $kind) {
            $there = static fn (string $project): int => count(self::of($plan, $kind, $project));
            $expected = in_array($kind, EntityKind::copied(), true);
            self::assertSame($expected, $there($template) > 0, "{$kind->value} in the template");
            self::assertSame($there($template), $there($again), "{$kind->value} in a copy of it");
            if ($expected && ! in_array($kind, [EntityKind::Assignment, EntityKind::OpenEnd, EntityKind::Coding], true)) {
                $inner = $kind === EntityKind::Link ? count(array_filter(self::of($plan, $kind, 'prj-GRID'),
                    static fn ($l): bool => ! $plan->isHandover($l))) : $there('prj-GRID');
                self::assertSame($inner, $there($template), "all {$kind->value}");
            }
        }
        $this->assertResultsAreTrue();
    }

    public function test_fragments_and_duplicated_rows_have_what_stands_on_them(): void
    {
        $rows = ['act-free', 'act-end', self::TASK.'-b'];
        $fragment = $this->postJson('/api/v1/compose/fragment', ['project' => 'prj-GRID', 'activities' => $rows, 'wbs' => ['wbs-free'],
            'key' => 'FRAG', 'name' => 'Fragment', 'branch' => $this->branch('Fleet')])->assertOk()->json('projects.0');
        $before = $this->plan();
        $this->postJson('/api/v1/compose/insert', ['fragment' => $fragment, 'project' => 'prj-TERN', 'prefix' => 'N-'])->assertOk();
        $plan = $this->plan();
        foreach (EntityKind::inProjects() as $kind) {
            $expected = in_array($kind, EntityKind::copied(), true);
            self::assertSame($expected, self::of($plan, $kind, $fragment) !== [], "{$kind->value} in the fragment");
            $added = count(self::of($plan, $kind, 'prj-TERN')) - count(self::of($before, $kind, 'prj-TERN'));
            self::assertSame($kind === EntityKind::Insertion ? 1 : count(self::of($plan, $kind, $fragment)), $added, $kind->value);
        }
        $this->postJson('/api/v1/compose/duplicate', ['from' => 'prj-GRID', 'to' => 'prj-GRID', 'activities' => $rows,
            'wbs' => ['wbs-free']])->assertOk();
        $again = $this->plan();
        foreach (array_diff_key(self::ours(), ['openEnd' => 0]) as $name => $uid) { // what waits for others is not waited for twice
            $kind = EntityKind::from($name);
            self::assertSame(in_array($kind, EntityKind::copied(), true), count(self::of($again, $kind, 'prj-GRID'))
                > count(self::of($plan, $kind, 'prj-GRID')), $name);
        }
    }

    public function test_what_stands_on_a_row_moves_with_it(): void
    {
        $this->change([self::update('activity', 'act-free', ['project' => 'prj-CREW'])])->assertOk();
        $plan = $this->plan();
        foreach (self::ours() as $name => $uid) {
            $kind = EntityKind::from($name);
            $on = $plan->find($kind, $uid)?->fields()['activity'] ?? null;
            $on === null ?: self::assertSame('prj-CREW', $plan->ownerOf($kind, $uid), $name);
        }
        $crew = $this->exported('CREW');
        foreach (EntityKind::standingOnActivities() as $kind) {
            self::assertStringContainsString('"'.self::ours()[$kind->value].'"', $crew, $kind->value);
        }
        $this->assertResultsAreTrue();
    }

    public function test_the_feed_has_them(): void
    {
        $token = $this->person('ilse')->createToken('t', ['feed'])->plainTextToken;
        $ask = fn (string $path): mixed => $this->withToken($token)->getJson("/odata/v4/{$path}")->assertOk()->json('value');
        $missing = array_flip(self::ours());
        foreach ($ask('') as ['name' => $set]) {
            $rows = preg_match('/^(Change|Baseline)/', $set) === 1 ? [] : $ask("{$set}?\$select=Id");
            $missing = array_diff_key($missing, array_flip(array_column($rows, 'Id')));
        }
        self::assertSame([], $missing);
    }

    /** Of people, money and remarks nothing is left in a file that is shared with less. */
    public function test_what_is_left_out_of_a_file_is_not_in_it(): void
    {
        $marks = [];
        foreach (self::ours() + ['project' => 'prj-GRID'] as $name => $uid) {
            foreach (EntityKind::from($name)->fields() as $field) {
                if (! in_array($field->tells, [null, Tells::Nobody], true) && $field->stamp === null) {
                    $mark = $field->type === FieldType::Whole ? 77_131_979
                        : 'X-MARK:'.strtolower("{$name}-{$field->name}-{$field->tells->value}");
                    $uid = in_array($field->name, ['giverOwner', 'takerOwner'], true) ? 'link-over' : $uid;
                    $this->change([self::update($name, $uid, [$field->name => $mark])])->assertOk();
                    $marks[$field->tells->value][] = (string) $mark;
                }
            }
        }
        $marks[Tells::People->value][] = (string) $this->person('ilse')->name; // stamped on the remark
        self::assertEqualsCanonicalizing(array_diff(array_column(Tells::cases(), 'value'), ['nobody']), array_keys($marks));
        $whole = $this->exported('GRID,CREW');
        foreach ($marks as $tells => $list) {
            $less = (string) $this->get("/api/v1/exchange/export?projects=GRID,CREW&format=plan-xml&without={$tells}")->assertOk()
                ->getContent();
            foreach ($list as $mark) {
                self::assertStringContainsString($mark, $whole);
                self::assertStringNotContainsString($mark, $less);
            }
        }
    }

    public function test_every_text_says_whether_it_names_people(): void
    {
        foreach ([EntityKind::Project, ...EntityKind::inProjects()] as $kind) {
            foreach ($kind->fields() as $name => $field) {
                self::assertFalse(in_array($field->type, [FieldType::Text, FieldType::Title], true) && $field->tells === null,
                    "{$kind->value}.{$name}");
            }
        }
    }

    public function test_the_search_finds_what_has_a_name(): void
    {
        foreach (self::ours() as $name => $uid) {
            $called = EntityKind::from($name)->entry()->called;
            if ($called === []) {
                continue;
            }
            $field = $called[count($called) - 1];
            $this->change([self::update($name, $uid, [$field => "Walrus {$name}"])])->assertOk();
            $answer = $this->getJson("/api/v1/search?q=walrus {$name}")->assertOk();
            self::assertContains($uid, [...array_column($answer->json('activities'), 'uid'),
                ...array_column($answer->json('objects'), 'uid')],
                $name);
        }
        $this->actingAs($this->somebody('viewer', 'Archive'));
        $hidden = $this->getJson('/api/v1/search?q=walrus')->assertOk();
        self::assertSame([[], [], []], [$hidden->json('projects'), $hidden->json('activities'), $hidden->json('objects')]);
    }

    public function test_the_history_tells_of_them_and_of_their_end(): void
    {
        $this->postJson('/api/v1/changes/'.DB::table('change_sets')->orderByDesc('id')->value('uid').'/undo')->assertOk();
        foreach (self::operations() as $operation) {
            $made = $this->change([$operation])->assertOk()->json('changeSet');
            $kind = $operation['kind'];
            if (EntityKind::from($kind)->entry()->owner === Owner::Project) {
                $entries = $this->getJson('/api/v1/history?project=prj-GRID')->assertOk()->json('entries');
                $item = collect($entries)->firstWhere('uid', $made)['items'][0] ?? null;
                self::assertSame(['create', $kind, $operation['uid']], [$item['verb'] ?? null, $item['kind'] ?? null, $item['uid']
                    ?? null]);
            }
        }
        foreach (array_reverse(self::ours()) as $name => $uid) {
            $this->change([self::gone($name, $uid)])->assertOk();
            $item = collect($this->getJson('/api/v1/history?project=prj-GRID')->json('entries.0.items'))->firstWhere('uid', $uid);
            self::assertSame(['delete', $name], [$item['verb'] ?? null, $item['kind'] ?? null]);
            self::assertNotSame('', (string) $item['label'], $name);
        }
    }

    /** @return array<string, string> kind => its object in GRID, on `act-free` where it stands on activities */
    private static function ours(): array
    {
        $ours = [];
        foreach (self::operations() as $o) {
            EntityKind::from($o['kind'])->entry()->owner !== Owner::Project ?: $ours[$o['kind']] ??= $o['uid'];
        }

        return $ours;
    }

    /** @return array<string, \Reihe\Core\Plan\Entity> */
    private static function of(Plan $plan, EntityKind $kind, string $project): array
    {
        return array_filter($plan->all($kind), static fn (string $uid): bool => $plan->ownerOf($kind, $uid) === $project,
            ARRAY_FILTER_USE_KEY);
    }

    /** What stands on one activity is told by kind, whatever else it refers to. */
    public function test_what_stands_on_an_activity_is_told(): void
    {
        $this->change([self::update('assignment', 'work-act-free', ['resource' => 'res-free', 'intensity' => 100_000])])->assertOk();
        $plan = PlanStore::load(DB::table('projects')->pluck('id')->all())[0];
        $told = 0;
        foreach (EntityKind::standingOnActivities() as $kind) {
            $there = array_filter($plan->all($kind), static fn ($o): bool => ($o->fields()['activity'] ?? null) === 'act-free');
            $answer = $this->getJson("/api/v1/activities/act-free/objects/{$kind->value}")->assertOk();
            self::assertEquals(array_map(static fn ($o): array => $o->fields(), $there), array_column($answer->json('objects'), 'fields',
                'uid'), $kind->value);
            $told += count($there);
        }
        self::assertGreaterThan(2, $told);
    }
}

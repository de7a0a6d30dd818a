<?php

declare(strict_types=1);

namespace Tests\App;

use App\Access\Reach;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\Role;

/** Branches, codes, search, and roles that reach downwards. */
final class HierarchyTest extends TestCase
{
    public function test_roles_reach_everything_below_and_the_strongest_counts(): void
    {
        $user = $this->somebody('viewer');
        DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => $this->branchId('Fleet'), 'role' => 'planner']);
        $reach = Reach::of($user);
        $roles = array_map(fn (string $name): ?string => $reach->roleOn($this->branchId($name))?->value,
            ['Varnsund Ferries', 'Harbours', 'Fleet', 'Vessel conversions']);
        self::assertSame(['viewer', 'viewer', 'planner', 'planner'], $roles);
        self::assertTrue(Role::Administrator->reaches(Role::Planner));
        self::assertFalse(Role::Contributor->reaches(Role::Planner));
    }

    public function test_branches_are_made_renamed_and_deleted_when_empty(): void
    {
        $this->actingAs($this->person('aino'));
        $path = static fn (string $uid): string => (string) DB::table('branches')->where('uid', $uid)->value('path');
        $fleet = $this->branch('Fleet');
        $this->change([self::made('branch', 'workboats', ['parent' => $fleet, 'name' => 'Workboats']),
            self::made('branch', 'tugs', ['parent' => 'workboats', 'name' => 'Tugs'])])->assertOk();
        self::assertSame($path($fleet).DB::table('branches')->where('uid', 'workboats')->value('id').'/', $path('workboats'));
        self::assertStringStartsWith($path('workboats'), $path('tugs'));
        $this->change([self::made('branch', 'b', ['parent' => $fleet, 'name' => ' Workboats '])])->assertStatus(422)
            ->assertJsonPath('field', 'name');
        $this->change([self::update('branch', 'workboats', ['name' => 'Small craft'])])->assertOk();
        $this->change([self::made('branch', 'b', ['parent' => $this->branch('Harbours'), 'name' => 'X'])])->assertStatus(422)
            ->assertJsonPath('errors.0.pointer', '/operations/0/after/parent');
        $this->change([self::gone('branch', $this->branch('Vessel conversions'))])->assertStatus(422)
            ->assertJsonFragment(['detail' => 'branch Vessel conversions is still used by 2 projects']);
        $this->change([self::gone('branch', 'workboats')])->assertStatus(422);
        $this->change([self::gone('branch', 'workboats'), self::gone('branch', 'tugs')])->assertOk(); // in any order
    }

    public function test_a_project_on_a_new_branch_in_one_change_set(): void
    {
        $this->actingAs($this->person('aino'));
        $project = self::made('project', 'tug',
            ['key' => 'TUG', 'name' => 'Tug', 'branch' => 'tugs', 'calendar' => 'cal-office', 'start' => '2026-12-01T08:00']);
        $this->change([self::made('branch', 'tugs', ['parent' => $this->branch('Fleet'), 'name' => 'Tugs']), $project])->assertOk();
        $without = ['branch' => null] + $project['after'];
        $this->change([['after' => ['key' => 'T2'] + $without, 'uid' => 't2'] + $project])->assertStatus(422)
            ->assertJsonPath('errors.0.pointer', '/operations/0/after/branch');
        $this->change([self::update('project', 'tug', ['branch' => null])])->assertStatus(422)
            ->assertJsonPath('errors.0.pointer', '/operations/0/after/branch');
    }

    /** Who stands above decides who reaches it, so only those who administer both places move a branch. */
    public function test_moving_a_branch_takes_administrators_of_both_places_and_carries_all_below(): void
    {
        $this->actingAs($this->person('aino'));
        $this->change([self::update('branch', $this->branch('Dry dock'), ['parent' => $this->branch('Vessel conversions')])])
            ->assertStatus(403);
        $user = $this->somebody('administrator', 'Fleet');
        $this->actingAs($user);
        $this->change([self::update('branch', $this->branch('Dry dock'), ['parent' => $this->branch('Harbours')])])
            ->assertStatus(422); // not even seen
        DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => $this->branchId('Harbours'), 'role' => 'planner']);
        $this->change([self::update('branch', $this->branch('Dry dock'), ['parent' => $this->branch('Harbours')])])->assertStatus(403);
        $this->actingAs($this->person('ilse'));
        $uid = $this->change([self::update('branch', $this->branch('Fleet'), ['parent' => $this->branch('Harbours')])])->assertOk()
            ->json('changeSet');
        self::assertSame(Role::Planner, Reach::of($this->person('teodor'))->roleOn($this->branchId('Vessel conversions')),
            'planner of what is above now');
        foreach (DB::table('branches')->get() as $branch) {
            $above = DB::table('branches')->where('id', $branch->parent_id)->value('path');
            self::assertSame("{$above}{$branch->id}/", $branch->path, $branch->name);
        }
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        self::assertNull(Reach::of($this->person('teodor'))->roleOn($this->branchId('Vessel conversions')));
        $this->change([self::update('branch', $this->branch('Fleet'), ['parent' => $this->branch('Dry dock')])])->assertStatus(422)
            ->assertJsonPath('field', 'parent');
        $this->change([self::update('branch', $this->branch('Fleet'), ['parent' => null])])->assertStatus(422)
            ->assertJsonPath('field', 'parent');
    }

    public function test_roles_keep_a_branch(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('branch', 'tugs', ['parent' => $this->branch('Fleet'), 'name' => 'Tugs'])])->assertOk();
        $this->somebody('viewer', 'Tugs');
        $this->change([self::gone('branch', 'tugs')])->assertStatus(422)
            ->assertJsonFragment(['detail' => 'branch Tugs still has 1 role granted on it; take them away first']);
    }

    /** The reason of a change set may name what is out of reach. */
    public function test_branches_out_of_reach_are_not_told_of(): void
    {
        $this->actingAs($this->person('ilse'));
        $uid = $this->change([self::made('branch', 'secret', ['parent' => $this->branch('Archive'), 'name' => 'Secret'])],
            ['reason' => 'Made branch Secret'])->assertOk()->json('changeSet');
        self::assertStringContainsString('Secret', (string) $this->getJson('/api/v1/changes')->getContent());
        $this->actingAs($this->person('aino'));
        self::assertStringNotContainsString('Secret', (string) $this->getJson('/api/v1/changes')->getContent());
        $this->actingAs($this->somebody('approver', 'Fleet'));
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertStatus(403);
        $this->actingAs($this->somebody('approver', 'Archive'));
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
    }

    public function test_sets_and_entries_get_keys_of_their_own_and_sub_entries(): void
    {
        $this->actingAs($this->person('aino'));
        $key = static fn (string $uid): string => (string) DB::table('code_entries')->where('uid', $uid)->value('key');
        $this->change([self::made('entry', 'e1',
            ['codeSet' => 'codeset-stage', 'name' => 'Steel & paint', 'parent' => 'entry-stage-build'])])->assertOk();
        $this->change([self::made('entry', 'e2', ['codeSet' => 'codeset-stage', 'name' => 'Steel paint'])])->assertOk();
        self::assertSame(['STEEL-PAINT', 'STEEL-PAINT-2'], [$key('e1'), $key('e2')]);
        $this->change([self::made('entry', 'e3', ['codeSet' => 'codeset-stage', 'name' => 'Steel paint'])])->assertStatus(422)
            ->assertJsonPath('field', 'name');
        $this->change([self::made('entry', 'e3', ['codeSet' => 'codeset-district', 'name' => 'Astray', 'parent' => 'entry-stage-build'])])
            ->assertStatus(422)->assertJsonPath('field', 'parent');
        // made in the moment of assigning
        $this->change([self::made('codeSet', 's', ['scope' => 'activity', 'name' => 'Gewerk / craft']),
            self::made('entry', 'weld', ['codeSet' => 's', 'name' => 'Schweißen']),
            self::made('coding', 'c', ['project' => 'prj-TERN', 'activity' => 'act-tern-tr-0020', 'entry' => 'weld'])])->assertOk();
        self::assertSame(['GEWERK-CRAFT', 'SCHWEISSEN'], [DB::table('code_sets')->where('uid', 's')->value('key'), $key('weld')]);
        $this->actingAs($this->person('ilse'));
        $this->change([self::gone('entry', 'weld')])->assertStatus(422)
            ->assertJsonFragment(['detail' => 'entry Gewerk / craft: Schweißen is still used by 1 coding']);
        $this->change([self::gone('codeSet', 's')])->assertStatus(422);
        $uid = $this->change([self::gone('codeSet', 's'), self::gone('coding', 'c')])->assertOk()->json('changeSet');
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        self::assertSame(1, DB::table('codings')->where('uid', 'c')->count());
    }

    /** Dates do not follow from names: what was calculated stays good when the hierarchy or a code set is changed. */
    public function test_what_dates_do_not_follow_from_calculates_nothing_again(): void
    {
        $this->actingAs($this->person('ilse'));
        $revisions = static fn (): array => DB::table('projects')->orderBy('id')->pluck('input_revision', 'uid')
            ->all() + ['' => DB::table('enterprise')->value('input_revision')];
        $was = $revisions();
        $this->change([self::update('branch', $this->branch('Fleet'), ['name' => 'Ships']),
            self::update('codeSet', 'codeset-stage', ['name' => 'Phase']),
            self::made('entry', 'e', ['codeSet' => 'codeset-stage', 'name' => 'Idea'])])->assertOk();
        self::assertSame($was, $revisions());
        $this->change([self::update('calendar', 'cal-dock', ['name' => 'Dock'])])->assertOk();
        self::assertSame(1 + $was[''], $revisions()['']);
        $this->assertResultsAreTrue();
    }

    public function test_search_finds_by_key_code_and_name_and_takes_signs_literally(): void
    {
        $this->actingAs($this->person('ilse'));
        self::assertSame('TERN', $this->getJson('/api/v1/search?q=tern')->json('projects.0.key'));
        self::assertSame('GRID-CA-0050', $this->getJson('/api/v1/search?q=jointed')->json('activities.0.code'));
        self::assertSame([], $this->getJson('/api/v1/search?q=%25')->json('activities'));
        $this->getJson('/api/v1/search')->assertStatus(422);
    }

    public function test_change_sets_are_listed_with_author_and_reason(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 960])], ['reason' => 'Cable came early'])->assertOk();
        $list = $this->getJson('/api/v1/changes')->assertOk()->json('changes');
        self::assertSame(['Ilse Marbach', 'edit', 'Cable came early', 'applied', 1],
            [$list[0]['author'], $list[0]['source'], $list[0]['reason'], $list[0]['state'], $list[0]['operations']]);
        $this->flushSession();
        $this->actingAs($this->person('aino'));
        $this->postJson("/api/v1/changes/{$list[0]['uid']}/undo")->assertStatus(404); // not even seen
        $this->flushSession();
        $this->actingAs($this->somebody('approver', 'Grid and energy'));
        $this->postJson("/api/v1/changes/{$list[0]['uid']}/undo")->assertOk();
    }

    public function test_an_empty_database_gets_the_bare_necessities_once(): void
    {
        $this->artisan('reihe:demo', ['size' => 'none'])->expectsOutputToContain('in use')->assertSuccessful();
        $this->artisan('migrate:fresh')->assertSuccessful();
        $this->artisan('reihe:demo', ['size' => 'none'])->expectsOutputToContain('password')->assertSuccessful();
        self::assertSame(1, DB::table('branches')->count());
        $this->artisan('migrate:fresh')->assertSuccessful();
        $this->artisan('reihe:demo', ['size' => 'large', '--projects' => 4, '--activities' => 80])
            ->expectsOutputToContain('4 projects, 80 activities')->assertSuccessful();
        $this->assertResultsAreTrue();
    }

    public function test_what_the_asker_knows_is_not_made_again_and_whatever_changes_is(): void
    {
        $this->actingAs($this->person('ilse'));
        $tag = fn (): string => (string) $this->getJson('/api/v1/portfolio')->assertOk()->headers->get('ETag');
        $knows = fn (string $tag): int => $this->getJson('/api/v1/portfolio', ['If-None-Match' => $tag])->getStatusCode();
        $seen = $tag();
        self::assertSame(304, $knows($seen));
        self::assertSame(304, $knows('W/'.$seen), 'as a proxy that compresses makes of it');
        foreach ([
            fn () => $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 30 * 480])]),
            fn () => $this->change([self::update('project', 'prj-GRID', ['lead' => 'Noor Haddad'])]),
            fn () => $this->change([self::update('calendar', 'cal-grid', ['name' => 'Other'])]),
            fn () => $this->change([self::made('branch', 'tugs', ['parent' => $this->branch('Fleet'), 'name' => 'Tugs'])]),
            fn () => $this->change([self::made('codeSet', 'funding', ['scope' => 'project', 'name' => 'Funding'])]),
            fn () => $this->change([self::update('coding', 'coding-grid-stage', ['entry' => 'entry-stage-trial'])]),
        ] as $what) {
            self::assertTrue($what()->isSuccessful());
            self::assertSame(200, $knows($seen));
            $seen = $tag();
        }
        $this->actingAs($this->somebody('viewer', 'Fleet'));
        self::assertSame(200, $knows($seen), 'another user sees other things');
    }
}

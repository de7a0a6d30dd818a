<?php

declare(strict_types=1);

namespace Tests\App;

use App\Access\Reach;
use App\Access\Role;
use App\Models\Branch;
use App\Models\CodeSet;

/** Branches, codes, search, and roles that reach downwards. */
final class HierarchyTest extends TestCase
{
    public function test_roles_reach_everything_below_and_the_strongest_counts(): void
    {
        $user = $this->somebody('viewer');
        \Illuminate\Support\Facades\DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => $this->branch('Fleet'), 'role' => 'planner']);
        $reach = Reach::of($user);
        $roles = array_map(fn (string $name): ?string => $reach->roleOn((int) $this->branch($name))?->value, ['Varnsund Ferries', 'Harbours', 'Fleet', 'Vessel conversions']);
        self::assertSame(['viewer', 'viewer', 'planner', 'planner'], $roles);
        self::assertTrue(Role::Administrator->reaches(Role::Planner));
        self::assertFalse(Role::Contributor->reaches(Role::Planner));
    }

    public function test_branches_are_made_renamed_and_deleted_when_empty(): void
    {
        $this->actingAs($this->person('aino'));
        $fleet = (int) $this->branch('Fleet');
        $id = $this->postJson('/api/v1/branches', ['parent' => $fleet, 'name' => 'Workboats'])->assertCreated()->json('id');
        self::assertSame(Branch::query()->findOrFail($fleet)->path."{$id}/", Branch::query()->findOrFail($id)->path);
        $this->postJson('/api/v1/branches', ['parent' => $fleet, 'name' => 'Workboats'])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/name');
        $this->patchJson("/api/v1/branches/{$id}", ['name' => 'Small craft'])->assertOk()->assertJsonPath('name', 'Small craft');
        $this->postJson('/api/v1/branches', ['parent' => (int) $this->branch('Harbours'), 'name' => 'X'])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/parent');
        $this->deleteJson('/api/v1/branches/'.$this->branch('Vessel conversions'))->assertStatus(422);
        $this->deleteJson("/api/v1/branches/{$id}")->assertNoContent();
    }

    public function test_entries_get_keys_of_their_own_and_sub_entries(): void
    {
        $this->actingAs($this->person('aino'));
        $set = CodeSet::query()->where('key', 'STAGE')->firstOrFail();
        $build = $set->entries()->where('key', 'BUILD')->valueOrFail('id');
        $value = $this->postJson("/api/v1/code-sets/{$set->id}/entries", ['name' => 'Steel & paint', 'parent' => $build])->assertCreated();
        self::assertSame(['STEEL-PAINT', $build], [$value->json('key'), $value->json('parent')]);
        $again = $this->postJson("/api/v1/code-sets/{$set->id}/entries", ['name' => 'Steel paint'])->assertCreated();
        self::assertSame('STEEL-PAINT-2', $again->json('key'));
        $this->postJson("/api/v1/code-sets/{$set->id}/entries", ['name' => 'Steel paint'])->assertStatus(422);
        $other = CodeSet::query()->where('key', 'DISTRICT')->firstOrFail();
        $this->postJson("/api/v1/code-sets/{$other->id}/entries", ['name' => 'Astray', 'parent' => $build])->assertStatus(422);
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
        self::assertSame(['Ilse Marbach', 'edit', 'Cable came early', 'applied', 1], [$list[0]['author'], $list[0]['source'], $list[0]['reason'], $list[0]['state'], $list[0]['operations']]);
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
        self::assertSame(1, Branch::query()->count());
        $this->artisan('migrate:fresh')->assertSuccessful();
        $this->artisan('reihe:demo', ['size' => 'large', '--projects' => 4, '--activities' => 80])->expectsOutputToContain('4 projects, 80 activities')->assertSuccessful();
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
            fn () => $this->postJson('/api/v1/branches', ['parent' => (int) $this->branch('Fleet'), 'name' => 'Tugs']),
            fn () => $this->postJson('/api/v1/code-sets', ['name' => 'Funding']),
            fn () => $this->change([self::update('project', 'prj-GRID', ['code:STAGE' => 'TRIAL'])]),
        ] as $what) {
            self::assertTrue($what()->isSuccessful());
            self::assertSame(200, $knows($seen));
            $seen = $tag();
        }
        $this->actingAs($this->somebody('viewer', 'Fleet'));
        self::assertSame(200, $knows($seen), 'another user sees other things');
    }
}

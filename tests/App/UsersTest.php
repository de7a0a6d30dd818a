<?php

declare(strict_types=1);

namespace Tests\App;

use App\Access\Accounts;
use App\Access\Owners;
use App\Access\Reach;
use App\Models\User;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;

/** Users and access, with the rules that keep an enterprise from locking itself out. */
final class UsersTest extends TestCase
{
    public function test_a_user_is_added_given_roles_and_signs_in_with_the_first_password(): void
    {
        $this->actingAs($this->person('ilse'));
        $made = $this->postJson('/api/v1/users', ['name' => ' Ida Moen ', 'email' => 'ida@example.org'])->assertCreated();
        self::assertSame(['Ida Moen', []], [$made->json('name'), $made->json('roles')]);
        $this->postJson('/api/v1/users', ['name' => 'x', 'email' => 'IDA@example.org'])->assertStatus(422);
        $fleet = $this->branch('Fleet');
        $this->putJson("/api/v1/users/{$made->json('id')}/roles", ['branch' => $fleet, 'role' => 'planner'])->assertOk()
            ->assertJsonPath('roles.0.role', 'planner');
        $this->putJson("/api/v1/users/{$made->json('id')}/roles", ['branch' => $fleet, 'role' => 'viewer'])->assertOk()
            ->assertJsonPath('roles.0.role', 'viewer');
        self::assertSame(['role', 'role', 'added'],
            array_slice(array_column($this->getJson('/api/v1/users')->json('history'), 'what'), 0, 3));
        self::assertStringNotContainsString((string) $made->json('password'), (string) $this->getJson('/api/v1/users')->getContent());
        $this->app['auth']->forgetGuards();
        $this->flushSession();
        $this->postJson('/api/v1/session', ['email' => 'ida@example.org', 'password' => $made->json('password')])->assertOk()
            ->assertJsonPath('user.name', 'Ida Moen');
    }

    public function test_a_deactivated_user_is_out_at_once(): void
    {
        $wen = $this->person('wen');
        $token = $wen->createToken('x', ['read'])->plainTextToken;
        DB::table('sessions')->insert(['id' => 's', 'user_id' => $wen->id, 'payload' => '', 'last_activity' => 1]);
        $this->actingAs($this->person('ilse'));
        $this->patchJson("/api/v1/users/{$wen->id}", ['active' => false])->assertOk()->assertJsonPath('active', false);
        self::assertSame([0, 0], [DB::table('sessions')->where('user_id', $wen->id)->count(), $wen->tokens()->count()]);
        $this->app['auth']->forgetGuards();
        $this->flushSession();
        $this->withToken($token)->getJson('/api/v1/portfolio')->assertUnauthorized();
        $this->flushHeaders();
        $this->withHeader('Origin', 'http://127.0.0.1')
            ->postJson('/api/v1/session', ['email' => 'wen@varnsund.example', 'password' => 'varnsund'])->assertStatus(422);
    }

    public function test_somebody_stays_administrator_of_the_root(): void
    {
        $ilse = $this->person('ilse');
        $this->actingAs($ilse);
        $root = $this->branch('Varnsund Ferries');
        $this->putJson("/api/v1/users/{$ilse->id}/roles", ['branch' => $root, 'role' => 'planner'])->assertStatus(422);
        $this->putJson("/api/v1/users/{$ilse->id}/roles", ['branch' => $root, 'role' => null])->assertStatus(422);
        $this->patchJson("/api/v1/users/{$ilse->id}", ['active' => false])->assertStatus(422);
        self::assertTrue($ilse->refresh()->active);
        self::assertSame('administrator', DB::table('grants')->where('user_id', $ilse->id)->value('role'));
        $this->putJson('/api/v1/users/'.$this->person('wen')->id.'/roles', ['branch' => $root, 'role' => 'administrator'])->assertOk();
        $this->putJson("/api/v1/users/{$ilse->id}/roles", ['branch' => $root, 'role' => 'planner'])->assertOk();
    }

    public function test_administrators_of_a_branch_decide_about_that_branch_alone(): void
    {
        $this->actingAs($this->somebody('administrator', 'Fleet'));
        $aino = $this->person('aino');
        $teodor = $this->person('teodor');
        $this->putJson("/api/v1/users/{$teodor->id}/roles", ['branch' => $this->branch('Dry dock'), 'role' => 'viewer'])->assertOk();
        $this->putJson("/api/v1/users/{$teodor->id}/roles", ['branch' => $this->branch('Harbours'), 'role' => null])->assertStatus(422);
        $this->patchJson("/api/v1/users/{$teodor->id}", ['active' => false])->assertForbidden();
        $this->postJson("/api/v1/users/{$teodor->id}/password")->assertForbidden();
        $this->patchJson("/api/v1/users/{$aino->id}", ['active' => false])->assertOk();
        $list = $this->getJson('/api/v1/users')->assertOk();
        self::assertStringNotContainsString('Harbours', (string) $list->getContent());
        self::assertNotContains($this->branch('Harbours'),
            array_merge(...array_map(static fn (array $u): array => array_column($u['roles'], 'branch'), $list->json('users'))));
    }

    public function test_the_same_twice_is_told_once_and_changes_nothing_else(): void
    {
        $wen = $this->person('wen');
        $this->actingAs($this->person('ilse'));
        $root = $this->branch('Varnsund Ferries');
        foreach ([['patch', '', ['active' => false]], ['patch', '', ['active' => true]], ['patch', '', ['name' => '0']],
            ['put', '/roles', ['branch' => $root, 'role' => 'planner']],
            ['put', '/roles', ['branch' => $root, 'role' => null]]] as [$method, $path, $body]) {
            $before = DB::table('access_history')->count();
            $first = $this->{"{$method}Json"}("/api/v1/users/{$wen->id}{$path}", $body)->assertOk()->json();
            self::assertSame($first, $this->{"{$method}Json"}("/api/v1/users/{$wen->id}{$path}", $body)->assertOk()->json());
            self::assertSame($before + 1, DB::table('access_history')->count(), (string) json_encode($body));
        }
        self::assertSame(['0', true, []], [$first['name'], $first['active'], $first['roles']]);
    }

    /** The request was begun with the user as they were; what counts is how they are once the enterprise is held. */
    public function test_a_role_given_meanwhile_counts(): void
    {
        $teodor = $this->person('teodor');
        DB::table('grants')->where('user_id', $teodor->id)->update(['branch_id' => $this->branchId('Fleet')]);
        $accounts = new Accounts(Reach::of($this->somebody('administrator', 'Fleet')));
        self::assertArrayNotHasKey($teodor->id, $accounts->beyond());
        DB::table('grants')->insert(['user_id' => $teodor->id, 'branch_id' => $this->branchId('Harbours'), 'role' => 'viewer']);
        $password = $teodor->password;
        foreach ([fn () => $accounts->resetPassword($teodor), fn () => $accounts->activate($teodor, false),
            fn () => $accounts->rename($teodor, 'x')] as $try) {
            try {
                $try();
                self::fail('an administrator of another branch decided');
            } catch (AuthorizationException) {
                self::assertSame([$password, true, 'Teodor Lindqvist'], [$teodor->refresh()->password, $teodor->active, $teodor->name]);
            }
        }
    }

    public function test_the_list_asks_the_database_as_often_for_many_users_as_for_few(): void
    {
        $this->actingAs($this->person('ilse'));
        $count = function (): int {
            DB::enableQueryLog();
            DB::flushQueryLog();
            $this->getJson('/api/v1/users')->assertOk();

            return count(DB::getQueryLog());
        };
        $count();
        $few = $count();
        for ($i = 0; $i < 60; $i++) {
            $user = User::query()->create(['name' => "User {$i}", 'email' => "user{$i}@example.org", 'password' => '-']);
            DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => $this->branchId('Fleet'), 'role' => 'viewer']);
        }
        self::assertSame($few, $count());
    }

    public function test_ones_own_password(): void
    {
        $wen = $this->person('wen');
        $wen->createToken('x', ['read']);
        $this->actingAs($wen);
        $this->postJson('/api/v1/session/password', ['current' => 'wrong', 'password' => 'long enough now'])->assertStatus(422)
            ->assertJsonPath('errors.0.pointer', '/current');
        $this->postJson('/api/v1/session/password', ['current' => 'Varnsund', 'password' => 'long enough now'])->assertStatus(422);
        $this->postJson('/api/v1/session/password', ['current' => 'varnsund', 'password' => 'short'])->assertStatus(422);
        $this->postJson('/api/v1/session/password', ['current' => 'varnsund', 'password' => 'long enough now'])->assertNoContent();
        self::assertSame(0, $wen->tokens()->count());
        $this->app['auth']->forgetGuards();
        $this->flushSession();
        $this->postJson('/api/v1/session', ['email' => 'wen@varnsund.example', 'password' => 'long enough now'])->assertOk();
    }

    public function test_guesses_of_the_present_password_are_counted(): void
    {
        $this->actingAs($this->person('wen'));
        for ($i = 0; $i < 5; $i++) {
            $this->postJson('/api/v1/session/password', ['current' => "guess {$i}", 'password' => 'long enough now'])->assertStatus(422);
        }
        $this->postJson('/api/v1/session/password', ['current' => 'varnsund', 'password' => 'long enough now'])->assertStatus(429);
    }

    /** Who has a role nowhere could be given any: root administrators decide about them. */
    public function test_users_without_roles_belong_to_administrators_of_the_root(): void
    {
        $user = $this->somebody(null);
        foreach ([['Fleet', 403, false], ['Varnsund Ferries', 200, true]] as [$branch, $status, $may]) {
            $this->actingAs($this->somebody('administrator', $branch));
            $shown = array_column($this->getJson('/api/v1/users')->json('users'), 'mayDecide', 'id');
            self::assertSame($may, $shown[$user->id]);
            $this->postJson("/api/v1/users/{$user->id}/password")->assertStatus($status);
            $this->patchJson("/api/v1/users/{$user->id}", ['email' => "{$status}@example.org"])->assertStatus($status);
        }
    }

    public function test_addresses_are_told_apart_letter_by_letter_in_lower_case(): void
    {
        $this->actingAs($this->person('ilse'));
        $made = $this->postJson('/api/v1/users', ['name' => 'Ana', 'email' => 'Ana@Example.org'])->assertCreated();
        self::assertSame('ana@example.org', $made->json('email'));
        $id = $made->json('id');
        $this->postJson('/api/v1/users', ['name' => 'Other', 'email' => 'ANA@example.org'])->assertStatus(422);
        $this->patchJson("/api/v1/users/{$id}", ['email' => 'Wen@varnsund.example'])->assertStatus(422);
        $this->patchJson("/api/v1/users/{$id}", ['email' => ['x']])->assertStatus(422);
        $this->patchJson("/api/v1/users/{$id}", ['email' => 'ANNA@example.org'])->assertOk()->assertJsonPath('email', 'anna@example.org');
        $this->app['auth']->forgetGuards();
        $this->flushSession();
        $try = fn (string $email): int => $this->postJson('/api/v1/session', ['email' => $email, 'password' => $made->json('password')])
            ->status();
        foreach (['ána@example.org', 'ａnna@example.org', 'ana@example.org', 'anna@example.org ', 'ãnna@example.org'] as $other) {
            self::assertSame(422, $try($other), $other);
        }
        self::assertSame(200, $try('Anna@EXAMPLE.org'));
    }

    /** Attempts count by account, wherever they come from, and by address, whatever the account. */
    public function test_attempts_are_counted_by_account_and_by_address(): void
    {
        $try = fn (string $email, string $from, string $password = 'wrong'): int => $this->withServerVariables(['REMOTE_ADDR' => $from])
            ->postJson('/api/v1/session', ['email' => $email, 'password' => $password])->status();
        for ($i = 0; $i < 5; $i++) {
            self::assertSame(422, $try($i % 2 === 0 ? 'wen@varnsund.example' : 'WEN@varnsund.example', "10.0.0.{$i}"));
        }
        self::assertSame(429, $try('wen@varnsund.example', '10.0.0.9', 'varnsund'));
        for ($i = 0; $i < 60; $i++) {
            self::assertSame(422, $try("nobody{$i}@varnsund.example", '10.0.1.1'));
        }
        self::assertSame(429, $try('aino@varnsund.example', '10.0.1.1', 'varnsund'));
        self::assertSame(200, $try('aino@varnsund.example', '10.0.1.2', 'varnsund'));
    }

    /** A first password, given by an administrator or from the machine, opens nothing but the choice of another. */
    public function test_a_first_password_is_changed_before_anything_else(): void
    {
        $wen = $this->person('wen');
        $given = [];
        $this->actingAs($this->person('ilse'));
        $given[] = (string) $this->postJson("/api/v1/users/{$wen->id}/password")->json('password');
        \Illuminate\Support\Facades\Artisan::call('reihe:account', ['email' => 'WEN@varnsund.example']);
        preg_match('/password (\S+) /', \Illuminate\Support\Facades\Artisan::output(), $said);
        $given[] = $said[1] ?? '';
        foreach ([1 => $given[1]] + $given as $i => $first) {
            $i === 1 ?: $wen->refresh()->update(['password' => $first, 'must_change' => true]);
            $this->app['auth']->forgetGuards();
            $this->flushSession();
            $this->withHeader('Origin', 'http://127.0.0.1');
            $this->postJson('/api/v1/session', ['email' => $wen->email, 'password' => $first])->assertOk()
                ->assertJsonPath('user.mustChange', true);
            foreach (['portfolio', 'changes', 'users', 'tokens'] as $path) {
                $this->getJson("/api/v1/{$path}")->assertForbidden();
            }
            $this->postJson('/api/v1/tokens', ['name' => 't', 'scopes' => ['read']])->assertForbidden();
            $this->postJson('/api/v1/session/password', ['current' => $first, 'password' => $first])->assertStatus(422);
            $this->postJson('/api/v1/session/password', ['current' => $first, 'password' => "my own password {$i}"])->assertNoContent();
            $this->getJson('/api/v1/portfolio')->assertOk();
            $this->getJson('/api/v1/session')->assertJsonPath('user.mustChange', false);
        }
    }

    public function test_who_runs_the_machine_always_gets_in(): void
    {
        DB::table('grants')->delete();
        $this->artisan('reihe:account', ['email' => 'nobody@example.org'])->expectsOutputToContain('no user')->assertFailed();
        $this->artisan('reihe:account', ['email' => 'nobody'])->assertFailed();
        $this->artisan('reihe:account', ['email' => 'New@example.org', '--administrator' => true, '--name' => 'Nia'])->assertSuccessful();
        $nia = User::query()->where('email', 'new@example.org')->firstOrFail();
        self::assertSame(['Nia', true, true], [$nia->name, $nia->must_change, $nia->active]);
        self::assertTrue(Reach::of($nia)->may(\Reihe\Core\Plan\Role::Administrator, $this->branchId('Varnsund Ferries')));
        $wen = $this->person('wen');
        $wen->update(['active' => false]);
        $this->artisan('reihe:account', ['email' => $wen->email])->assertSuccessful();
        self::assertTrue($wen->refresh()->active);
        self::assertSame(0, DB::table('grants')->where('user_id', $wen->id)->count());
    }

    /** Addresses of feeds end like tokens: with a new password, a reset and a deactivation, which activating does not undo. */
    public function test_addresses_of_feeds_end_with_what_they_were_made_under(): void
    {
        $wen = $this->person('wen');
        $feed = fn (): string => (string) parse_url((string) $this->actingAs($wen)->postJson('/api/v1/subscriptions', ['kind' => 'risks'])
            ->assertCreated()->json('address'), PHP_URL_PATH);
        foreach (['own' => fn () => $this->actingAs($wen)->postJson('/api/v1/session/password', ['current' => 'varnsund',
            'password' => 'long enough now'])->assertNoContent(),
            'reset' => fn () => $this->actingAs($this->person('ilse'))->postJson("/api/v1/users/{$wen->id}/password")->assertOk(),
            'off and on' => function () use ($wen): void {
                $this->actingAs($this->person('ilse'));
                $this->patchJson("/api/v1/users/{$wen->id}", ['active' => false])->assertOk();
                $this->patchJson("/api/v1/users/{$wen->id}", ['active' => true])->assertOk();
            }] as $what => $do) {
            $wen->refresh()->update(['must_change' => false]);
            $address = $feed();
            $this->get($address)->assertOk();
            $do();
            self::assertSame(404, $this->get($address)->status(), $what);
        }
    }

    /** A thing of the enterprise is changed where it belongs or above; what is made on a leaf is the leaf's. */
    public function test_things_of_the_enterprise_belong_to_the_branch_of_who_made_them(): void
    {
        $fleet = $this->somebody('administrator', 'Fleet');
        $harbours = $this->somebody('administrator', 'Harbours');
        $week = ['1' => '08:00-16:00'];
        $things = [['calendar', ['key' => 'MINE', 'name' => 'x', 'minutesPerDay' => 480, 'week' => $week], ['name' => 'New']],
            ['codeSet', ['key' => 'MINE', 'name' => 'x', 'scope' => 'project'], ['name' => 'New']],
            ['ownField', ['scope' => 'activity', 'name' => 'x', 'key' => 'MINE', 'type' => 'number'], ['name' => 'New']],
            ['levelScheme', ['name' => 'x'], ['name' => 'New']]];
        foreach ($things as [$kind, $made, $change]) {
            $this->actingAs($fleet);
            $this->change([self::made($kind, "mine-{$kind}", $made)])->assertOk();
            $this->change([self::update($kind, "mine-{$kind}", $change)])->assertOk();
            $this->actingAs($harbours);
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'Stolen'])])->assertForbidden();
            $this->change([self::gone($kind, "mine-{$kind}")])->assertForbidden();
            $this->actingAs($this->person('ilse'));
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'From above'])])->assertOk();
            $this->change([self::made($kind, "ours-{$kind}", ['key' => 'OURS', 'name' => 'z'] + $made)])->assertOk();
            $gone = $this->change([self::gone($kind, "mine-{$kind}")])->assertOk()->json('changeSet');
            $this->postJson("/api/v1/changes/{$gone}/undo")->assertOk();
            $this->actingAs($fleet);
            $this->change([self::update($kind, "ours-{$kind}", ['name' => 'Stolen'])])->assertForbidden();
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'Still mine'])])->assertOk();
        }
        // what belongs to the root is read, derived from and extended
        $this->change([self::update('calendar', 'cal-office', ['name' => 'Stolen'])])->assertForbidden();
        $this->change([self::made('calendar', 'derived', ['key' => 'DERIVED', 'name' => 'x', 'minutesPerDay' => 480,
            'base' => 'cal-office'])])
            ->assertOk();
        $this->change([self::made('entry', 'extended', ['codeSet' => 'mine-codeSet', 'key' => 'E', 'name' => 'E'])])->assertOk();
        $this->change([self::made('entry', 'theirs', ['codeSet' => 'ours-codeSet', 'key' => 'E', 'name' => 'E'])])->assertOk();
        $this->change([self::update('entry', 'extended', ['name' => 'New'])])->assertOk();
        $this->change([self::update('entry', 'theirs', ['name' => 'New'])])->assertForbidden();
    }

    /** Whose things are is shown, given away from above both, follows a branch that moves and survives its deletion and its undo. */
    public function test_things_of_the_enterprise_are_given_to_other_branches(): void
    {
        $fleet = $this->somebody('administrator', 'Fleet');
        $planner = $this->somebody('planner');
        $ilse = $this->person('ilse');
        $things = ['calendar' => ['key' => 'MINE', 'name' => 'x', 'minutesPerDay' => 480, 'week' => ['1' => '08:00-16:00']],
            'codeSet' => ['key' => 'MINE', 'name' => 'x', 'scope' => 'project'],
            'ownField' => ['scope' => 'activity', 'name' => 'x', 'key' => 'MINE', 'type' => 'number'], 'levelScheme' => ['name' => 'x'],
            'resource' => ['key' => 'MINE', 'calendar' => 'cal-office']];
        $owner = fn (string $kind): array => (array) collect((array) $this->getJson('/api/v1/owners')->assertOk()->json('owners'))
            ->first(static fn (array $o): bool => $o['uid'] === "mine-{$kind}");
        foreach (array_filter(EntityKind::cases(), Owners::has(...)) as $k) {
            $kind = $k->value;
            $give = fn (string $branch): int => $this->putJson("/api/v1/owners/{$kind}/mine-{$kind}", ['branch' => $branch])->status();
            $this->actingAs($fleet);
            $this->change([self::made($kind, "mine-{$kind}", $things[$kind])])->assertOk();
            self::assertSame(['kind' => $kind, 'uid' => "mine-{$kind}", 'branch' => $this->branch('Fleet'), 'mayChange' => true],
                $owner($kind));
            self::assertSame(422, $give($this->branch('Harbours')), 'a branch one does not see');
            self::assertSame(422, $give(''));
            $this->actingAs($planner);
            self::assertSame($kind === 'resource', $owner($kind)['mayChange'], 'who plans a branch keeps its resources');
            self::assertSame(403, $give($this->branch('Harbours')));
            // the branch goes, and comes back
            $this->actingAs($ilse);
            $this->change([self::made('branch', "below-{$kind}", ['name' => $kind, 'parent' => $this->branch('Fleet')])])->assertOk();
            self::assertSame(200, $give("below-{$kind}"));
            $this->actingAs($fleet);
            self::assertTrue($owner($kind)['mayChange'], 'what lies below is changed from above');
            $this->actingAs($ilse);
            $gone = $this->change([self::gone('branch', "below-{$kind}")])->assertOk()->json('changeSet');
            $this->actingAs($fleet);
            self::assertSame([null, false], [$owner($kind)['branch'], $owner($kind)['mayChange']], 'the root has it meanwhile');
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'Stolen'])])->assertForbidden();
            $this->actingAs($ilse);
            $this->postJson("/api/v1/changes/{$gone}/undo")->assertOk();
            $this->actingAs($fleet);
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'Back'])])->assertOk();
            // the branch moves elsewhere
            $this->actingAs($ilse);
            $this->change([self::update('branch', "below-{$kind}", ['parent' => $this->branch('Harbours')])])->assertOk();
            $this->actingAs($fleet);
            self::assertFalse($owner($kind)['mayChange']);
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'Stolen'])])->assertForbidden();
            // and the right is taken back
            $this->actingAs($ilse);
            self::assertSame(200, $give($this->branch('Fleet')));
            $this->actingAs($fleet);
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'Mine'])])->assertOk();
            DB::table('grants')->where('user_id', $fleet->id)->update(['role' => 'planner']);
            self::assertSame(403, $give($this->branch('Fleet')));
            $this->change([self::update($kind, "mine-{$kind}", ['name' => 'Stolen'])])->assertStatus($kind === 'resource' ? 200 : 403);
            DB::table('grants')->where('user_id', $fleet->id)->update(['role' => 'administrator']);
        }
        foreach (['branch/x', 'entry/x', 'nothing/x', 'calendar/x'] as $path) {
            $this->putJson("/api/v1/owners/{$path}", ['branch' => $this->branch('Fleet')])->assertNotFound();
        }
    }
}

<?php

declare(strict_types=1);

namespace Tests\App;

use App\Access\Accounts;
use App\Access\Reach;
use App\Models\User;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;

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
        DB::table('grants')->where('user_id', $teodor->id)->delete();
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
}

<?php

declare(strict_types=1);

namespace App\Access;

use App\Database\Enterprise;
use App\Models\User;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Plan\Role;

/**
 * Users and their roles, changed by administrators, each change with its history. An administrator decides about the branches
 * they administer; about a person as such (name, e-mail, active, password) only when they administer every branch the person has a
 * role on, and about one without a role only when they administer the root. Somebody always stays who administers the root branch.
 */
final class Accounts
{
    public function __construct(private readonly Reach $reach)
    {
    }

    /** @return array{User, string} the user and a first password, which is told only now */
    public function add(string $name, string $email): array
    {
        $this->reach->requireAnywhere(Role::Administrator);
        $password = Str::password(14, symbols: false);

        return DB::transaction(function () use ($name, $email, $password): array {
            $user = User::query()->create(['name' => $name, 'email' => $email, 'password' => $password, 'must_change' => true]);
            $this->record($user, 'added');

            return [$user, $password];
        });
    }

    /**
     * What who runs the machine may do, signed in or not: a first password, told only now; sessions and tokens of the user end.
     *
     * @param  string  $name  of a user to be made
     */
    public static function fromTheMachine(string $email, string $name, bool $administrator): string
    {
        Enterprise::lock();
        $password = Str::password(14, symbols: false);
        $user = User::query()->firstOrNew(['email' => $email], ['name' => mb_substr($name, 0, 120)]);
        $what = $user->exists ? 'password' : 'added';
        $user->fill(['password' => $password, 'must_change' => true, 'active' => true])->save();
        $root = DB::table('branches')->whereNull('parent_id')->value('id');
        if ($administrator && is_int($root)) {
            DB::table('grants')->upsert([['user_id' => $user->id, 'branch_id' => $root, 'role' => Role::Administrator->value]],
                ['user_id', 'branch_id'], ['role']);
        }
        DB::table('access_history')->insert(['author_id' => null, 'user_id' => $user->id, 'what' => $what, 'created_at' => now()]);

        return $password;
    }

    public function rename(User $user, string $name): void
    {
        $this->decide($user, function (User $user) use ($name): void {
            if ($user->name !== $name) {
                $user->update(['name' => $name]);
                $this->record($user, 'renamed', detail: $name);
            }
        });
    }

    public function readdress(User $user, string $email): void
    {
        $this->decide($user, function (User $user) use ($email): void {
            if ($user->email !== $email) {
                $user->update(['email' => $email]);
                $this->record($user, 'email', detail: $email);
            }
        });
    }

    /** Sessions and tokens of a deactivated user end at once. */
    public function activate(User $user, bool $active): void
    {
        $this->decide($user, function (User $user) use ($active): void {
            if ($user->active === $active) {
                return;
            }
            $user->update(['active' => $active]);
            $this->requireSomebody();
            if (! $active) {
                $user->endSessions();
            }
            $this->record($user, $active ? 'activated' : 'deactivated');
        });
    }

    /** A new first password, told only now; sessions and tokens end. */
    public function resetPassword(User $user): string
    {
        $password = Str::password(14, symbols: false);
        $this->decide($user, function (User $user) use ($password): void {
            $user->update(['password' => $password, 'must_change' => true]);
            $this->record($user, 'password');
        });

        return $password;
    }

    /** @param  Role|null  $role  null takes the role on the branch away */
    public function grant(User $user, int $branch, ?Role $role): void
    {
        $this->reach->requireSeen(Role::Administrator, $branch);
        DB::transaction(function () use ($user, $branch, $role): void {
            Enterprise::lock();
            $name = DB::table('branches')->where('id', $branch)->value('name');
            abort_if(! is_string($name), 404);
            $where = ['user_id' => $user->id, 'branch_id' => $branch];
            $before = DB::table('grants')->where($where)->value('role');
            if ($before === $role?->value) {
                return;
            }
            $role === null ? DB::table('grants')->where($where)->delete()
                : DB::table('grants')->upsert([$where + ['role' => $role->value]], ['user_id', 'branch_id'], ['role']);
            $this->requireSomebody();
            $this->record($user, 'role', $branch, "{$name}: ".($role->value ?? 'none'));
        });
    }

    /**
     * The users about whom, as such, the signed-in administrator may not decide: they have a role where they administer nothing, or
     * none at all, and it is not the root that they administer.
     *
     * @return array<int, true> by id
     */
    public function beyond(): array
    {
        $beyond = (new Owners($this->reach))->mayForAll() ? []
            : array_fill_keys(array_map(static fn (User $u): int => $u->id,
                User::query()->whereNotIn('id', DB::table('grants')->select('user_id'))->get(['id'])->all()), true);
        foreach (DB::table('grants')->get(['user_id', 'branch_id']) as $grant) {
            /** @var object{user_id: int, branch_id: int} $grant */
            if (! $this->reach->may(Role::Administrator, $grant->branch_id)) {
                $beyond[$grant->user_id] = true;
            }
        }

        return $beyond;
    }

    /**
     * Holds the enterprise, so that a role given at the same moment counts; then looks at the user as they are now, then works.
     *
     * @param  callable(User): void  $work
     */
    private function decide(User $user, callable $work): void
    {
        $this->reach->requireAnywhere(Role::Administrator);
        DB::transaction(function () use ($user, $work): void {
            Enterprise::lock();
            if (isset($this->beyond()[$user->id])) {
                throw new AuthorizationException('You need the administrator role on every branch this user has a role on.');
            }
            $work($user->refresh());
        });
    }

    private function requireSomebody(): void
    {
        $left = DB::table('grants')->join('users', 'users.id', '=', 'user_id')->join('branches', 'branches.id', '=', 'branch_id')
            ->whereNull('parent_id')->where('role', Role::Administrator->value)->where('active', true)->exists();
        if (! $left) {
            throw ValidationException::withMessages(['role' => 'Somebody active must stay administrator of the root branch.']);
        }
    }

    private function record(User $user, string $what, ?int $branch = null, ?string $detail = null): void
    {
        DB::table('access_history')->insert(['author_id' => $this->reach->user->id, 'user_id' => $user->id, 'what' => $what,
            'branch_id' => $branch,
            'detail' => $detail === null ? null : mb_substr($detail, 0, 160), 'created_at' => now()]);
    }
}

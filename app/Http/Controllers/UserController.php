<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Accounts;
use App\Access\Reach;
use App\Http\PlainText;
use App\Models\User;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Plan\Role;

/** Users and access, for administrators. */
final class UserController
{
    public function __construct(private readonly Reach $reach, private readonly Accounts $accounts)
    {
    }

    public function index(): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Administrator);

        return new JsonResponse(['users' => $this->shapes(User::query()->orderBy('name')->orderBy('id')->get()),
            'history' => $this->history()]);
    }

    public function create(Request $request): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Administrator);
        $name = PlainText::title($request, 'name', 120);
        [$user, $password] = $this->accounts->add($name, self::email($request));

        return new JsonResponse($this->shapes([$user])[0] + ['password' => $password], 201);
    }

    public function update(Request $request, int $id): JsonResponse
    {
        $user = $this->user($id);
        $request->validate(['active' => 'boolean']);
        if ($request->has('name')) {
            $this->accounts->rename($user, PlainText::title($request, 'name', 120));
        }
        if ($request->has('email')) {
            $this->accounts->readdress($user, self::email($request, $user));
        }
        if ($request->has('active')) {
            $this->accounts->activate($user, $request->boolean('active'));
        }

        return new JsonResponse($this->shapes([$user])[0]);
    }

    public function password(int $id): JsonResponse
    {
        $user = $this->user($id);

        return new JsonResponse(['password' => $this->accounts->resetPassword($user)]);
    }

    public function role(Request $request, int $id): JsonResponse
    {
        $user = $this->user($id);
        /** @var array{branch: string, role: string|null} $input */
        $input = $request->validate(['branch' => 'required|string', 'role' => ['present', 'nullable', Rule::enum(Role::class)]]);
        $branch = $this->reach->branch($input['branch']);
        if ($branch === null) {
            throw ValidationException::withMessages(['branch' => 'This branch does not exist.']);
        }
        $this->accounts->grant($user, $branch, $input['role'] === null ? null : Role::from($input['role']));

        return new JsonResponse($this->shapes([$user])[0]);
    }

    /** An address in lower case that nobody else has. */
    private static function email(Request $request, ?User $of = null): string
    {
        is_string($request->input('email')) ? $request->merge(['email' => User::address($request->string('email')->value())]) : null;
        /** @var array{email: string} $input */
        $input = $request->validate(['email' => ['required', 'string', 'email', 'max:255', Rule::unique('users', 'email')
            ->ignore($of?->id)]],
            ['email.unique' => 'There is a user with this e-mail already.']);

        return $input['email'];
    }

    private function user(int $id): User
    {
        $this->reach->requireAnywhere(Role::Administrator);

        return User::query()->findOrFail($id);
    }

    /**
     * @param  iterable<User>  $users
     * @return list<array<string, mixed>>
     */
    private function shapes(iterable $users): array
    {
        $roles = [];
        $uids = $this->reach->branchUids();
        foreach (DB::table('grants')->whereIn('branch_id', $this->reach->branches())->get(['user_id', 'branch_id', 'role']) as $g) {
            /** @var object{user_id: int, branch_id: int, role: string} $g */
            $roles[$g->user_id][] = ['branch' => $uids[$g->branch_id], 'role' => $g->role,
                'mayChange' => $this->reach->may(Role::Administrator, $g->branch_id)];
        }
        $beyond = $this->accounts->beyond();
        $shapes = [];
        foreach ($users as $u) {
            $shapes[] = ['id' => $u->id, 'name' => $u->name, 'email' => $u->email, 'active' => $u->active, 'roles' => $roles[$u->id] ?? [],
                'mayDecide' => ! isset($beyond[$u->id])];
        }

        return $shapes;
    }

    /** @return list<array<string, mixed>> the last changes, those of roles only on branches within reach */
    private function history(): array
    {
        return array_values(DB::table('access_history as h')->leftJoin('users as a', 'a.id', '=', 'h.author_id')
            ->join('users as u', 'u.id', '=', 'h.user_id')
            ->where(fn (Builder $w): Builder => $w->where('what', '!=', 'role')->orWhereIn('branch_id', $this->reach->branches()))
            ->orderByDesc('h.id')->limit(100)
            ->get(['h.what', 'h.detail', 'h.created_at', 'a.name as author', 'u.name as user', 'u.id as user_id'])
            ->map(static fn (object $h): array => ['user' => $h->user_id, 'name' => $h->user, 'what' => $h->what, 'detail' => $h->detail,
                'author' => $h->author, 'at' => $h->created_at])->all());
    }
}

<?php

declare(strict_types=1);

namespace App\Access;

use App\Models\User;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Contracts\Database\Query\Expression;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Role;

/** The one place that knows what a user reaches. Roles are granted on branches and hold for everything below. */
final class Reach
{
    /** @var array<int, Role> branch id => strongest role there */
    private array $roles = [];

    /** @var array<string, int> uid => id of branches within reach */
    private array $branches = [];

    /** @var array<array-key, bool>|null keys of visible projects */
    private ?array $keys = null;

    /** @param  string|null  $below  path of a branch: nothing else is within reach */
    private function __construct(public readonly User $user, ?string $below = null)
    {
        $grants = DB::table('grants')->join('branches', 'branches.id', '=', 'grants.branch_id')
            ->where('grants.user_id', $user->id)->get(['branches.path', 'grants.role']);
        if ($grants->isEmpty()) {
            return;
        }
        /** @var \Illuminate\Support\Collection<int, object{id: int, uid: string, path: string}> $branches */
        $branches = DB::table('branches')->get(['id', 'uid', 'path']);
        foreach ($branches as $branch) {
            foreach ($grants as $grant) {
                /** @var object{role: string, path: string} $grant */
                $role = Role::from($grant->role);
                if (str_starts_with($branch->path, $grant->path) && ($below === null || str_starts_with($branch->path, $below))
                    && (! isset($this->roles[$branch->id]) || $role->reaches($this->roles[$branch->id]))) {
                    $this->roles[$branch->id] = $role;
                    $this->branches[$branch->uid] = $branch->id;
                }
            }
        }
    }

    /** @param  int|null  $branch  id of a branch that a token is made for: reach ends there */
    public static function of(User $user, ?int $branch = null): self
    {
        $path = $branch === null ? null : DB::table('branches')->where('id', $branch)->value('path');

        return new self($user, $branch === null ? null : (is_string($path) ? $path : '-'));
    }

    public function roleOn(int $branch): ?Role
    {
        return $this->roles[$branch] ?? null;
    }

    /** The id of a branch that the user sees; null for any other, as for one that is not there. */
    public function branch(string $uid): ?int
    {
        return $this->branches[$uid] ?? null;
    }

    /** @return array<int, string> id => uid of the branches that the user sees */
    public function branchUids(): array
    {
        return array_flip($this->branches);
    }

    public function may(Role $needed, int $branch): bool
    {
        return isset($this->roles[$branch]) && $this->roles[$branch]->reaches($needed);
    }

    /** Does the user have this role on any branch? */
    public function mayAnywhere(Role $needed): bool
    {
        foreach ($this->roles as $role) {
            if ($role->reaches($needed)) {
                return true;
            }
        }

        return false;
    }

    /** @throws AuthorizationException */
    public function require(Role $needed, int $branch): void
    {
        if (! $this->may($needed, $branch)) {
            throw new AuthorizationException("You need the {$needed->value} role on this branch.");
        }
    }

    /** @throws AuthorizationException */
    public function requireAnywhere(Role $needed): void
    {
        if (! $this->mayAnywhere($needed)) {
            throw new AuthorizationException("You need the {$needed->value} role on a branch.");
        }
    }

    /** @return list<int> branches that the user sees */
    public function branches(): array
    {
        return array_keys($this->roles);
    }

    /**
     * Does the user still see everything that was seen when something was said to them?
     *
     * @param  mixed  $branches  ids as {@see branches()} gave them then; branches that are gone hide nothing
     */
    public function covers(mixed $branches): bool
    {
        $lost = array_values(array_diff(array_filter(is_array($branches) ? $branches : [], is_int(...)), $this->branches()));

        return $lost === [] || ! DB::table('branches')->whereIn('id', $lost)->exists();
    }

    /** Limits a query to projects that the user sees. */
    public function limit(Builder $query, string|Expression $column = 'projects.branch_id'): Builder
    {
        return $query->whereIn($column, $this->branches());
    }

    /**
     * Templates and fragments are there for everybody on their branch, below it and above it: who makes projects on a branch uses
     * what the branches above keep for that.
     *
     * @return array<string, int> uid => id of those that the user may copy from
     */
    public function sources(): array
    {
        $ids = [];
        foreach (DB::table('branches')->whereIn('id', $this->branches())->pluck('path') as $path) {
            $ids += array_flip(array_filter(explode('/', is_string($path) ? $path : '')));
        }

        /** @var array<string, int> */
        return DB::table('projects')->whereIn('kept', [Kept::Template->value, Kept::Fragment->value])
            ->whereIn('branch_id', array_keys($ids))->pluck('id', 'uid')->all();
    }

    /**
     * @param  list<string>  $keys
     * @return list<int> ids of those of the projects that the user sees
     */
    public function projectsByKey(array $keys): array
    {
        /** @var list<int> */
        return $this->limit(DB::table('projects'))->whereIn('key', $keys)->pluck('id')->all();
    }

    /**
     * The projects of a working set: those that it is known to hold, else those of its keys, which others may have changed or taken.
     *
     * @param  list<string>  $keys
     * @param  array<string, mixed>  $known  by uid
     * @return list<int> ids of those of them that the user sees
     */
    public function workingSet(array $keys, array $known): array
    {
        /** @var list<int> */
        return $known === [] ? $this->projectsByKey($keys)
            : $this->limit(DB::table('projects'))->whereIn('uid', array_map(strval(...), array_keys($known)))->pluck('id')->all();
    }

    /** @return array<string, int> uid => id of the projects that the user sees */
    public function projects(): array
    {
        /** @var array<string, int> */
        return $this->limit(DB::table('projects'))->pluck('id', 'uid')->all();
    }

    /**
     * @throws \Symfony\Component\HttpKernel\Exception\NotFoundHttpException for a branch that the user may not see, as for one
     *     that is not there
     */
    public function requireSeen(Role $needed, int $branch): void
    {
        abort_if(! isset($this->roles[$branch]), 404);
        $this->require($needed, $branch);
    }

    /** Does the user see the whole hierarchy? */
    public function seesAll(): bool
    {
        return count($this->branches) === DB::table('branches')->count();
    }

    /** Does no project have the key of this label (yet)? Then it cannot be a hidden one. */
    public function isFree(string $label): bool
    {
        return ! DB::table('projects')->where('key', explode('/', $label)[0])->exists();
    }

    /** Is the project of a label (`KEY/CODE`) one that the user sees? */
    public function sees(string $label): bool
    {
        $this->keys ??= array_map(static fn (): bool => true, $this->limit(DB::table('projects'))->pluck('id', 'key')->all());

        return isset($this->keys[explode('/', $label)[0]]);
    }
}

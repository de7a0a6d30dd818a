<?php

declare(strict_types=1);

namespace App\Access;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\Role;

/** Who gains and who loses access when a branch, or a project, is hung somewhere else: roles come from what lies above. */
final class Shift
{
    /**
     * @param  string  $from  path of the branch that it hangs on now
     * @param  string  $to  path of the one that it will hang on
     * @param  string|null  $itself  path of the branch that moves, whose own roles stay; null for a project
     * @return list<array{name: string, was: string|null, will: string|null}> by name
     */
    public static function between(string $from, string $to, ?string $itself): array
    {
        $was = $will = $names = [];
        foreach (DB::table('grants')->join('branches', 'branches.id', '=', 'grants.branch_id')
            ->join('users', 'users.id', '=', 'grants.user_id')->where('users.active', true)
            ->get(['users.id', 'users.name', 'grants.role', 'branches.path']) as $grant) {
            /** @var object{id: int, name: string, role: string, path: string} $grant */
            $names[$grant->id] = $grant->name;
            $role = Role::from($grant->role);
            $own = $itself !== null && $grant->path === $itself;
            if ($own || str_starts_with($from, $grant->path)) {
                $was[$grant->id] = self::stronger($role, $was[$grant->id] ?? null);
            }
            if ($own || str_starts_with($to, $grant->path)) {
                $will[$grant->id] = self::stronger($role, $will[$grant->id] ?? null);
            }
        }
        asort($names);
        $shifts = [];
        foreach ($names as $id => $name) {
            [$a, $b] = [$was[$id] ?? null, $will[$id] ?? null];
            if ($a !== $b) {
                $shifts[] = ['name' => $name, 'was' => $a?->value, 'will' => $b?->value];
            }
        }

        return $shifts;
    }

    private static function stronger(Role $role, ?Role $than): Role
    {
        return $than === null || $role->reaches($than) ? $role : $than;
    }
}

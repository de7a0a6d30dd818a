<?php

declare(strict_types=1);

namespace App\Demo;

use App\Models\User;
use Illuminate\Support\Facades\DB;

/** Invented people, one for each role. Shown on the sign-in page while demo data is loaded. */
final class DemoUsers
{
    public const PASSWORD = 'varnsund';

    /** e-mail => name, role, branch */
    private const PEOPLE = [
        'ilse@varnsund.example' => ['Ilse Marbach', 'administrator', 'Varnsund Ferries'],
        'aino@varnsund.example' => ['Aino Rautio', 'planner', 'Fleet'],
        'teodor@varnsund.example' => ['Teodor Lindqvist', 'planner', 'Harbours'],
        'chidi@varnsund.example' => ['Chidi Okafor', 'approver', 'Grid and energy'],
        'noor@varnsund.example' => ['Noor Haddad', 'contributor', 'Fleet'],
        'wen@varnsund.example' => ['Wen Zhao', 'viewer', 'Varnsund Ferries'],
    ];

    /** The administrator comes first, when there is no more than the root; everybody else when their branches are there. */
    public static function administrator(): User
    {
        return self::make((string) array_key_first(self::PEOPLE));
    }

    public static function others(): void
    {
        array_map(self::make(...), array_slice(array_keys(self::PEOPLE), 1));
    }

    private static function make(string $email): User
    {
        [$name, $role, $branch] = self::PEOPLE[$email];
        $user = User::query()->create(['name' => $name, 'email' => $email, 'password' => self::PASSWORD, 'demo' => true]);
        DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => DB::table('branches')->where('name', $branch)->value('id'),
            'role' => $role]);

        return $user;
    }

    public static function role(User $user): string
    {
        return self::PEOPLE[$user->email][1] ?? '';
    }
}

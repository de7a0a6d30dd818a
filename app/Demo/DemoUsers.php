<?php

declare(strict_types=1);

namespace App\Demo;

use App\Models\Branch;
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

    public static function create(): User
    {
        foreach (self::PEOPLE as $email => [$name, $role, $branch]) {
            $user = User::query()->create(['name' => $name, 'email' => $email, 'password' => self::PASSWORD, 'demo' => true]);
            DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => Branch::query()->where('name', $branch)->valueOrFail('id'), 'role' => $role]);
        }

        return User::query()->where('email', 'ilse@varnsund.example')->firstOrFail();
    }

    public static function role(User $user): string
    {
        return self::PEOPLE[$user->email][1] ?? '';
    }
}

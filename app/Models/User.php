<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Foundation\Auth\User as Authenticatable;
use Illuminate\Support\Facades\DB;
use Laravel\Sanctum\HasApiTokens;

/**
 * @property int $id
 * @property string $name
 * @property string $email
 * @property string $password
 * @property bool $demo
 * @property bool $active
 * @property bool $must_change the password, before anything else
 */
final class User extends Authenticatable
{
    /** @use HasApiTokens<\Laravel\Sanctum\PersonalAccessToken> */
    use HasApiTokens;

    protected $fillable = ['name', 'email', 'password', 'demo', 'active', 'must_change'];

    protected $attributes = ['active' => true];

    protected $hidden = ['password', 'remember_token'];

    protected static function booted(): void
    {
        self::saving(static function (User $user): void {
            $user->email = self::address($user->email);
        });
        // who changes a password wants nobody else to be in: tokens end with it, sessions by Sanctum's comparison
        self::updated(static function (User $user): void {
            if ($user->wasChanged('password')) {
                $user->endSessions();
            }
        });
    }

    /** Addresses are told apart letter by letter, in lower case. */
    public static function address(string $email): string
    {
        return mb_strtolower($email);
    }

    /** Tokens, sessions and the addresses of feeds end, everywhere and at once. */
    public function endSessions(): void
    {
        $this->tokens()->delete();
        DB::table('subscriptions')->where('user_id', $this->id)->delete();
        DB::table('sessions')->where('user_id', $this->id)->delete();
    }

    protected function casts(): array
    {
        return ['password' => 'hashed', 'demo' => 'boolean', 'active' => 'boolean', 'must_change' => 'boolean'];
    }
}

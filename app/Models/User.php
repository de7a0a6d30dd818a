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
 */
final class User extends Authenticatable
{
    /** @use HasApiTokens<\Laravel\Sanctum\PersonalAccessToken> */
    use HasApiTokens;

    protected $fillable = ['name', 'email', 'password', 'demo', 'active'];

    protected $attributes = ['active' => true];

    protected $hidden = ['password', 'remember_token'];

    protected static function booted(): void
    {
        // who changes a password wants nobody else to be in: tokens end with it, sessions by Sanctum's comparison
        self::updated(static function (User $user): void {
            if ($user->wasChanged('password')) {
                $user->endSessions();
            }
        });
    }

    /** Tokens and sessions end, everywhere and at once. */
    public function endSessions(): void
    {
        $this->tokens()->delete();
        DB::table('sessions')->where('user_id', $this->id)->delete();
    }

    protected function casts(): array
    {
        return ['password' => 'hashed', 'demo' => 'boolean', 'active' => 'boolean'];
    }
}

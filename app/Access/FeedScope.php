<?php

declare(strict_types=1);

namespace App\Access;

use App\Models\User;
use Laravel\Sanctum\PersonalAccessToken;

/** What the token of a request is made for, if it is a token: a branch with everything below, some sets of the feed. */
final class FeedScope
{
    public static function branch(User $user): ?int
    {
        $branch = self::token($user)?->getAttribute('branch_id');

        return is_int($branch) ? $branch : null;
    }

    /** @return list<string>|null names of entity sets; null for all */
    public static function sets(User $user): ?array
    {
        $token = self::token($user);

        return $token === null ? null : self::setsOf($token);
    }

    /** @return list<string>|null */
    public static function setsOf(PersonalAccessToken $token): ?array
    {
        $written = $token->getAttribute('sets');
        $sets = is_string($written) ? json_decode($written, true) : null;

        return is_array($sets) ? array_values(array_filter($sets, is_string(...))) : null;
    }

    private static function token(User $user): ?PersonalAccessToken
    {
        /** @var object|null $token a session has another thing in its place, or nothing */
        $token = $user->currentAccessToken();

        return $token instanceof PersonalAccessToken ? $token : null;
    }

    private function __construct()
    {
    }
}

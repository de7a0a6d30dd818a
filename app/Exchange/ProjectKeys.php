<?php

declare(strict_types=1);

namespace App\Exchange;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Coding\ProjectKey;

/** Project keys that nobody has, in the whole enterprise. */
final class ProjectKeys
{
    public static function propose(string $name): string
    {
        return ProjectKey::propose($name, self::isTaken(...));
    }

    /**
     * The key itself, or with a number behind it when it is taken.
     *
     * @param  list<string>  $taken  also not to be used
     */
    public static function free(string $key, array $taken = []): string
    {
        return ProjectKey::free($key, static fn (string $k): bool => in_array($k, $taken, true) || self::isTaken($k));
    }

    public static function isTaken(string $key): bool
    {
        return DB::table('projects')->where('key', $key)->exists();
    }
}

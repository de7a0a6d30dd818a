<?php

declare(strict_types=1);

namespace App\Exchange;

use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Project keys: proposed from names, unique in the enterprise. */
final class ProjectKeys
{
    /** `Conversion of Tern` → `TERN`: the last long word in capitals, four letters of it. */
    public static function propose(string $name): string
    {
        $words = array_values(array_filter(explode('-', Str::upper(Str::slug($name))), static fn (string $w): bool => strlen($w) > 2));
        $word = end($words);

        return $word === false ? 'PROJECT' : substr($word, 0, 4);
    }

    /**
     * The key itself, or with a number behind it when it is taken.
     *
     * @param  list<string>  $taken  also not to be used
     */
    public static function free(string $key, array $taken = []): string
    {
        $free = $key;
        for ($n = 2; in_array($free, $taken, true) || DB::table('projects')->where('key', $free)->exists(); $n++) {
            $free = substr($key, 0, 16).$n;
        }

        return $free;
    }
}

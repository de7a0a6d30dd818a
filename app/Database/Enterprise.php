<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** The row that stands for the enterprise: whoever changes what all projects share holds it alone, whoever uses that shares it. */
final class Enterprise
{
    /**
     * Waits until nobody uses or changes what is shared; holds it until the transaction ends.
     *
     * @return int the revision of what is shared
     */
    public static function lock(): int
    {
        return self::number(DB::table('enterprise')->lockForUpdate()->value('revision'));
    }

    /**
     * Keeps what is shared as it is until the transaction ends.
     *
     * @return int its revision
     */
    public static function share(): int
    {
        return self::number(DB::table('enterprise')->sharedLock()->value('revision'));
    }

    public static function revision(): int
    {
        return self::number(DB::table('enterprise')->value('revision'));
    }

    /** Its calendars are at this revision: what dates follow from. */
    public static function inputRevision(): int
    {
        return self::number(DB::table('enterprise')->value('input_revision'));
    }

    /**
     * Something of it was changed.
     *
     * @param  bool  $input  something that dates follow from
     * @return int the new revision
     */
    public static function raise(bool $input): int
    {
        DB::table('enterprise')->incrementEach(['revision' => 1] + ($input ? ['input_revision' => 1] : []));

        return self::revision();
    }

    /**
     * Makes the root of the hierarchy, the one thing that nobody can have a role for before it is there.
     *
     * @return int its id
     */
    public static function found(string $uid, string $name): int
    {
        $id = DB::table('branches')->insertGetId(['uid' => $uid, 'name' => $name]);
        DB::table('branches')->where('id', $id)->update(['path' => "{$id}/"]);

        return $id;
    }

    /** What files from here say they come from. */
    public static function source(): string
    {
        $uid = DB::table('enterprise')->value('uid');

        return is_string($uid) ? "reihe:{$uid}" : '';
    }

    /** Changes when the database was put back to an earlier state, where revisions would come again with other content. */
    public static function epoch(): string
    {
        $epoch = DB::table('enterprise')->value('epoch');

        return is_string($epoch) ? $epoch : '';
    }

    /** Begins a new epoch. */
    public static function renew(): void
    {
        DB::table('enterprise')->update(['epoch' => (string) Str::ulid()]);
    }

    private static function number(mixed $value): int
    {
        return is_numeric($value) ? (int) $value : 0;
    }
}

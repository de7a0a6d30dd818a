<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;

/** The row that stands for the enterprise: whoever changes what all projects share holds it alone, whoever uses that shares it. */
final class Enterprise
{
    /** Waits until nobody uses or changes what is shared; holds it until the transaction ends. */
    public static function lock(): void
    {
        DB::table('enterprise')->lockForUpdate()->pluck('id');
    }

    /** Keeps what is shared as it is until the transaction ends. */
    public static function share(): void
    {
        DB::table('enterprise')->sharedLock()->pluck('id');
    }
}

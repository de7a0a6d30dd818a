<?php

declare(strict_types=1);

namespace App\Health;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Health\Thresholds;

/** The thresholds of the health checks that the enterprise set. */
final class ThresholdStore
{
    public static function load(): Thresholds
    {
        $stored = DB::table('settings')->where('key', 'health')->value('value');

        return Thresholds::read((array) json_decode(is_string($stored) ? $stored : '{}', true));
    }

    /**
     * Replaces all of them; what is left out is as in the catalogue.
     *
     * @param  array<array-key, mixed>  $data  check => {limit, days}
     */
    public static function save(array $data): void
    {
        Thresholds::read($data);
        DB::table('settings')->upsert([['key' => 'health', 'value' => json_encode((object) $data, JSON_THROW_ON_ERROR)]], ['key'],
            ['value']);
    }
}

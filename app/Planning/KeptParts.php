<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;

/**
 * Calculated parts of the network, kept between requests: in the memory that the web server's processes share, where
 * there is one (APCu), and in that of this process. Each web server has its own; a kept part counts only while all
 * revisions in it are those of the database, and without any everything works, slower.
 */
final class KeptParts
{
    /** parts in the memory of this process */
    private const MOST = 3;

    /** @var array<string, Part> the latest one last */
    private static array $here = [];

    /**
     * @param  array<string, int>  $ids  project uid => id, of all projects of the part
     * @param  array<string, int>  $revisions
     */
    public static function find(array $ids, array $revisions, int $enterprise): ?Part
    {
        $key = self::key($ids);
        $part = self::$here[$key] ?? null;
        if ($part !== null && $part->revisions === $revisions && $part->enterprise === $enterprise) {
            return $part;
        }
        if ($ids === [] || ! self::isShared()) {
            return null;
        }
        // the revisions stand beside the lists, so that a stale part is not copied for nothing
        if (apcu_fetch("{$key} at") !== [$revisions, $enterprise]) {
            return null;
        }
        $lists = apcu_fetch($key);
        if (! is_array($lists) || ($lists['revisions'] ?? null) !== $revisions || ($lists['enterprise'] ?? null) !== $enterprise) {
            return null;
        }

        /** @var array<string, mixed> $lists */
        return self::$here[$key] = Part::fromLists($lists, PlanStore::calendars());
    }

    public static function keep(Part $part): void
    {
        $key = self::key($part->ids);
        unset(self::$here[$key]);
        self::$here = array_slice(self::$here, 1 - self::MOST, null, true) + [$key => $part];
        if ($part->ids !== [] && self::isShared()) {
            apcu_store($key, $part->lists());
            apcu_store("{$key} at", [$part->revisions, $part->enterprise]);
        }
    }

    /** Forgets what this process keeps. */
    public static function forget(): void
    {
        self::$here = [];
    }

    private static function isShared(): bool
    {
        return function_exists('apcu_enabled') && apcu_enabled() && config('reihe.keep') !== false;
    }

    /** @param  array<string, int>  $ids */
    private static function key(array $ids): string
    {
        sort($ids);

        return 'reihe '.DB::connection()->getDatabaseName().' '.Enterprise::epoch().' '.hash('xxh128', implode(' ', $ids));
    }
}

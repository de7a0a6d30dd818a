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
        // the revisions stand beside the rest, so that a stale part is not read for nothing
        if (apcu_fetch("{$key} at") !== [$revisions, $enterprise]) {
            return null;
        }
        $text = apcu_fetch($key);
        $lists = is_string($text) ? igbinary_unserialize($text) : null;
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
            // as text: copying lists as they are reads past their ends in APCu 5.1.22
            apcu_store($key, igbinary_serialize($part->lists()));
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
        return function_exists('apcu_enabled') && apcu_enabled() && function_exists('igbinary_serialize');
    }

    /** @param  array<string, int>  $ids */
    private static function key(array $ids): string
    {
        sort($ids);

        return 'reihe '.DB::connection()->getDatabaseName().' '.Enterprise::epoch().' '.hash('xxh128', implode(' ', $ids));
    }
}

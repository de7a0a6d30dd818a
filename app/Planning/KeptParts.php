<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Enterprise;
use Illuminate\Support\Facades\DB;

/**
 * Calculated parts of the network, kept between requests: in the memory that the web server's processes share, where
 * there is one (APCu), and in that of this process. Each web server has its own; revisions tell which projects of a kept
 * part were changed elsewhere since ({@see Connected}), and without any everything works, slower. Lists are stored one by
 * one, so that an edit stores those that it changed.
 */
final class KeptParts
{
    /** parts in the memory of this process */
    private const MOST = 3;

    /** life of a list; an edit within that time renews what it changes, what is lost is calculated again */
    private const SECONDS = 43_200;

    /** @var array<string, Part> the latest one last */
    private static array $here = [];

    /**
     * The part as it was kept last; whoever asks compares its revisions.
     *
     * @param  array<string, int>  $ids  project uid => id, of all projects of the part
     * @param  array<string, int>  $inputs  project uid => revision of its objects
     */
    public static function latest(array $ids, array $inputs, int $enterprise): ?Part
    {
        $key = self::key($ids);
        $here = self::$here[$key] ?? null;
        if ($ids === [] || ! self::isShared() || ($here !== null && $here->inputs === $inputs && $here->enterprise === $enterprise)) {
            return $here;
        }
        /**
         * @var array{ids: array<string, int>, inputs: array<string, int>, enterprise: int, versions: array<string, string>,
         *     replaced: list<string>}|false $head
         */
        $head = apcu_fetch($key);
        if ($head === false || $head['enterprise'] !== $enterprise) {
            return $here;
        }
        $names = array_map(static fn (string $list, string $version): string => "{$key} {$list} {$version}", array_keys($head['versions']),
            $head['versions']);
        $texts = apcu_fetch($names);
        $lists = [];
        foreach (array_keys($head['versions']) as $at => $list) {
            $text = is_array($texts) ? $texts[$names[$at]] ?? null : null;
            if (! is_string($text)) {
                return $here; // made room for something else, or replaced at this moment
            }
            $lists[$list] = igbinary_unserialize($text);
        }

        return self::$here[$key] = Part::fromLists($head['ids'], $head['inputs'], $enterprise, $lists, PlanStore::calendars());
    }

    /** @param  Part|null  $before  the kept part that this one came from */
    public static function keep(Part $part, ?Part $before = null): void
    {
        $key = self::key($part->ids);
        unset(self::$here[$key]);
        self::$here = array_slice(self::$here, 1 - self::MOST, null, true) + [$key => $part];
        if ($part->ids === [] || ! self::isShared()) {
            return;
        }
        /** @var array{inputs: array<string, int>, enterprise: int, versions: array<string, string>, replaced: list<string>}|false $head */
        $head = apcu_fetch($key);
        $isNext = $before !== null && $head !== false && $head['inputs'] === $before->inputs && $head['enterprise'] === $before->enterprise;
        $was = $isNext ? $before->lists() : [];
        $versions = $head === false ? [] : $head['versions'];
        $version = bin2hex(random_bytes(6)); // never that of somebody who does the same at this moment: a head names whole lists only
        $replaced = [];
        foreach ($part->lists() as $list => $value) {
            if (! $isNext || $value !== ($was[$list] ?? null)) {
                if (isset($versions[$list])) {
                    $replaced[] = "{$key} {$list} {$versions[$list]}";
                }
                $versions[$list] = $version;
                // as text: copying lists as they are reads past their ends in APCu 5.1.22
                apcu_store("{$key} {$list} {$version}", igbinary_serialize($value), self::SECONDS);
            }
        }
        apcu_store($key, ['ids' => $part->ids, 'inputs' => $part->inputs, 'enterprise' => $part->enterprise, 'versions' => $versions,
            'replaced' => $replaced]);
        foreach ($head === false ? [] : $head['replaced'] as $older) { // those replaced now may be being read
            apcu_delete($older);
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

    /**
     * Parts never share a project, so the smallest id names one, also when projects join it or leave. What a version of the
     * program with other lists kept is not asked for.
     *
     * @param  array<string, int>  $ids
     */
    private static function key(array $ids): string
    {
        return 'reihe '.DB::connection()->getDatabaseName().' '.Enterprise::epoch().' '.Part::form().' '.($ids === [] ? '' : min($ids));
    }
}

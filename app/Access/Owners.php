<?php

declare(strict_types=1);

namespace App\Access;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Role;

/**
 * Whose the things of the enterprise are: of the lowest branch above everything that their maker plans. They are changed by who
 * administers that branch, which includes everybody above it; below it they are used, and calendars derived and code sets extended.
 * What nobody is known to have made belongs to the root.
 */
final class Owners
{
    /** @var array<string, int>|null kind and uid => id of a branch, of all that are known */
    private ?array $branches = null;

    private ?int $root = null;

    public function __construct(private readonly Reach $reach)
    {
    }

    /** May the user change a thing of the enterprise, or what belongs to it (entries to their set)? */
    public function may(EntityKind $kind, string $uid, Role $needed = Role::Administrator): bool
    {
        $this->branches ??= self::all();

        return $this->reach->may($needed, $this->branches["{$kind->value} {$uid}"] ?? $this->root ??= self::root());
    }

    /** The same for what belongs to the enterprise as a whole. */
    public function mayForAll(): bool
    {
        return $this->reach->may(Role::Administrator, $this->root ??= self::root());
    }

    /**
     * Writes down whose the things are that operations make. What was made before keeps its owner when it comes again, as by an undo.
     *
     * @param  list<Operation>  $operations  as applied
     */
    public static function keep(array $operations, Reach $reach): void
    {
        $rows = [];
        foreach ($operations as $o) {
            if ($o->verb === Verb::Create && self::has($o->kind)) {
                $rows[] = ['kind' => $o->kind->value, 'uid' => $o->uid, 'branch_id' => 0];
            }
        }
        $branch = $rows === [] ? null : self::above($reach);
        foreach ($branch === null ? [] : array_chunk($rows, 500) as $chunk) {
            DB::table('enterprise_owners')->insertOrIgnore(array_map(static fn (array $r): array => ['branch_id' => $branch] + $r, $chunk));
        }
    }

    /** Entries and level codes are their set's and their scheme's; branches have ways of their own. */
    public static function has(EntityKind $kind): bool
    {
        return $kind->entry()->owner === Owner::Enterprise
            && ! in_array($kind, [EntityKind::Branch, EntityKind::Entry, EntityKind::LevelCode], true);
    }

    /** The lowest branch above all where the user plans, the root where they plan nowhere. */
    private static function above(Reach $reach): int
    {
        $common = null;
        foreach (DB::table('branches')->whereIn('id', $reach->branches())->get(['id', 'path']) as $branch) {
            /** @var object{id: int, path: string} $branch */
            if ($reach->may(Role::Planner, $branch->id)) {
                $path = explode('/', trim($branch->path, '/'));
                $common = $common === null ? $path : self::shared($common, $path);
            }
        }

        return $common === null || $common === [] ? self::root() : (int) end($common);
    }

    /**
     * @param  list<string>  $one
     * @param  list<string>  $other
     * @return list<string> what both begin with
     */
    private static function shared(array $one, array $other): array
    {
        $n = 0;
        while (isset($one[$n], $other[$n]) && $one[$n] === $other[$n]) {
            $n++;
        }

        return array_slice($one, 0, $n);
    }

    private static function root(): int
    {
        $root = DB::table('branches')->whereNull('parent_id')->value('id');

        return is_int($root) ? $root : 0;
    }

    /** @return array<string, int> */
    private static function all(): array
    {
        $all = [];
        foreach (DB::table('enterprise_owners')->get(['kind', 'uid', 'branch_id']) as $row) {
            /** @var object{kind: string, uid: string, branch_id: int} $row */
            $all["{$row->kind} {$row->uid}"] = $row->branch_id;
        }

        return $all;
    }
}

<?php

declare(strict_types=1);

namespace App\Access;

use App\Database\Enterprise;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Role;

/**
 * Whose the things of the enterprise are: of the lowest branch above everything that their maker plans. They are changed by who
 * administers that branch, resources by who plans it, which includes everybody above it; below it they are used, and calendars derived and
 * code sets extended. What nobody is known to have made belongs to the root, and so does what belonged to a branch that is gone, until it
 * is brought back.
 */
final class Owners
{
    /** @var array<string, int>|null kind and uid => id of a branch, of all whose branch is there */
    private ?array $branches = null;

    private ?int $root = null;

    public function __construct(private readonly Reach $reach)
    {
    }

    /** May the user change a thing of the enterprise, or what belongs to it (entries to their set)? */
    public function may(EntityKind $kind, string $uid, ?Role $needed = null): bool
    {
        return $this->reach->may($needed ?? self::role($kind), $this->of($kind, $uid));
    }

    /** The role that changes things of a kind: who plans a branch keeps its resources. */
    public static function role(EntityKind $kind): Role
    {
        return $kind === EntityKind::Resource ? Role::Planner : Role::Administrator;
    }

    /** Is a branch the one that a thing belongs to, or does it lie below? */
    public function isBelow(EntityKind $kind, string $uid, int $branch): bool
    {
        $paths = DB::table('branches')->whereIn('id', [$branch, $this->of($kind, $uid)])->pluck('path', 'id');
        [$of, $here] = [$paths[$this->of($kind, $uid)] ?? '/', $paths[$branch] ?? ''];

        return is_string($of) && is_string($here) && str_starts_with($here, $of);
    }

    /** The id of the branch that a thing belongs to. */
    public function of(EntityKind $kind, string $uid): int
    {
        $this->branches ??= self::all();

        return $this->branches["{$kind->value} {$uid}"] ?? $this->root ??= self::root();
    }

    /**
     * Gives a thing to another branch; both must be the user's to administer.
     *
     * @throws AuthorizationException|ValidationException
     */
    public function give(EntityKind $kind, string $uid, string $branch): void
    {
        DB::transaction(function () use ($kind, $uid, $branch): void {
            Enterprise::lock();
            $now = new self(Reach::of($this->reach->user));
            $to = $now->reach->branch($branch) ?? throw ValidationException::withMessages(['branch' => 'This branch does not exist.']);
            if (! $now->may($kind, $uid, Role::Administrator) || ! $now->reach->may(Role::Administrator, $to)) {
                throw new AuthorizationException("You need the administrator role where this {$kind->entry()->noun} belongs and where "
                    .'it is to belong.');
            }
            DB::table('owners')->upsert([['kind' => $kind->value, 'uid' => $uid, 'branch' => $branch]], ['kind', 'uid'], ['branch']);
        });
        $this->branches = null;
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
                $rows[] = ['kind' => $o->kind->value, 'uid' => $o->uid];
            }
        }
        $branch = $rows === [] ? null : self::above($reach);
        foreach ($branch === null ? [] : array_chunk($rows, 500) as $chunk) {
            DB::table('owners')->insertOrIgnore(array_map(static fn (array $r): array => ['branch' => $branch] + $r, $chunk));
        }
    }

    /** Entries and level codes are their set's and their scheme's; branches have ways of their own. */
    public static function has(EntityKind $kind): bool
    {
        return $kind->entry()->owner === Owner::Enterprise
            && ! in_array($kind, [EntityKind::Branch, EntityKind::Entry, EntityKind::LevelCode], true);
    }

    /** The lowest branch above all where the user plans, the root where they plan nowhere. */
    private static function above(Reach $reach): ?string
    {
        $common = null;
        foreach (DB::table('branches')->whereIn('id', $reach->branches())->get(['id', 'path']) as $branch) {
            /** @var object{id: int, path: string} $branch */
            if ($reach->may(Role::Planner, $branch->id)) {
                $path = explode('/', trim($branch->path, '/'));
                $common = $common === null ? $path : self::shared($common, $path);
            }
        }

        $uid = DB::table('branches')->where('id', $common === null || $common === [] ? self::root() : (int) end($common))->value('uid');

        return is_string($uid) ? $uid : null;
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
        foreach (DB::table('owners as o')->join('branches as b', 'b.uid', '=', 'o.branch')->get(['o.kind', 'o.uid', 'b.id']) as $row) {
            /** @var object{kind: string, uid: string, id: int} $row */
            $all["{$row->kind} {$row->uid}"] = $row->id;
        }

        return $all;
    }
}

<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Formats\PlanXml\Hierarchy;

/** The hierarchy on its way out, as far as somebody sees it, and that of a file below the branch chosen for it: found by names, or made. */
final class Branches
{
    /** @var list<Operation> branches that are made */
    public array $operations = [];

    /** @var list<string> their paths, from the chosen one on */
    public array $made = [];

    /** @var array<string, array<array-key, array{string, float}>> uid => name of one below it => its uid and position */
    private array $below = [];

    /** @var array<array-key, string> path in the file => uid here */
    private array $found = [];

    /** how many names of the file’s paths lead to the chosen branch */
    private int $above = 0;

    public function __construct(Reach $reach, private readonly string $chosen, private readonly Hierarchy $file)
    {
        /** @var list<object{id: int, parent_id: int|null, name: string, position: float}> $rows */
        $rows = DB::table('branches')->whereIn('id', $reach->branches())->get(['id', 'parent_id', 'name', 'position'])->all();
        $uids = $reach->branchUids();
        $named = array_column($rows, null, 'id');
        foreach ($rows as $row) {
            $parent = $uids[$row->parent_id ?? 0] ?? null;
            $parent === null || $this->below[$parent][$row->name] = [$uids[$row->id], $row->position];
        }
        $own = [];
        for ($at = $named[$reach->branch($chosen) ?? 0] ?? null; $at !== null; $at = $named[$at->parent_id ?? 0] ?? null) {
            array_unshift($own, $at->name);
        }
        $this->above = $this->shared($own);
    }

    /**
     * Branches above projects, as far as the user sees them.
     *
     * @param  list<int>  $projects  ids
     */
    public static function above(array $projects, Reach $reach): Hierarchy
    {
        $seen = DB::table('branches')->whereIn('id', $reach->branches())->get(['id', 'name', 'position', 'lead', 'archived'])->keyBy('id');
        /** @var list<object{uid: string, branch_id: int, path: string}> $rows */
        $rows = DB::table('projects as p')->join('branches as b', 'b.id', '=', 'p.branch_id')->whereIn('p.id', $projects)
            ->get(['p.uid', 'p.branch_id', 'b.path'])->all();
        $branches = $of = [];
        foreach ($rows as $row) {
            $names = $order = [];
            foreach (array_unique([...array_map(intval(...), array_filter(explode('/', $row->path))), $row->branch_id]) as $id) {
                /** @var object{name: string, position: float, lead: string|null, archived: int}|null $branch */
                $branch = $seen[$id] ?? null;
                if ($branch !== null) {
                    $names[] = $branch->name;
                    array_push($order, $branch->position, $branch->name);
                    $branches[$of[$row->uid] = Hierarchy::path($names)] = [$order, $branch];
                }
            }
        }
        // as they stand; [1] before [1, 2] before [2]
        uasort($branches, static fn (array $a, array $b): int => array_slice($a[0], 0, $n = min(count($a[0]), count($b[0])))
            <=> array_slice($b[0], 0, $n) ?: count($a[0]) <=> count($b[0]));
        $branches = array_map(static fn (array $b): array => ['lead' => $b[1]->lead, 'archived' => $b[1]->archived === 1], $branches);

        return new Hierarchy($branches, $of);
    }

    /**
     * Finds or makes the branches of projects, in the order of the file.
     *
     * @param  list<string>  $projects  uids in the file
     */
    public function make(array $projects): void
    {
        $needed = [];
        foreach ($projects as $project) {
            for ($names = Hierarchy::names($this->file->of[$project] ?? ''); $names !== []; array_pop($names)) {
                $needed[Hierarchy::path($names)] = count($names);
            }
        }
        asort($needed);
        foreach (array_keys(array_intersect_key($this->file->branches, $needed) + $needed) as $path) {
            $this->at(Hierarchy::names((string) $path));
        }
    }

    /** The uid here of the branch for a project of the file. */
    public function of(string $project): string
    {
        return $this->at(Hierarchy::names($this->file->of[$project] ?? ''));
    }

    /** @param  list<string>  $names  from the outermost one in the file on */
    private function at(array $names): string
    {
        if (count($names) <= $this->above) {
            return $this->chosen;
        }
        $path = Hierarchy::path($names);
        if (isset($this->found[$path])) {
            return $this->found[$path];
        }
        $parent = $this->at(array_slice($names, 0, -1));
        $name = $names[count($names) - 1];
        if (isset($this->below[$parent][$name])) {
            return $this->found[$path] = $this->below[$parent][$name][0];
        }
        $uid = (string) Str::ulid();
        $position = 1 + max([0.0, ...array_column($this->below[$parent] ?? [], 1)]);
        $this->below[$parent][$name] = [$uid, $position];
        $this->operations[] = Operation::create(EntityKind::Branch, $uid, EntityKind::Branch->brief(['parent' => $parent, 'name' => $name,
            'position' => $position] + ($this->file->branches[$path] ?? [])));
        $this->made[] = implode(' › ', array_slice($names, $this->above));

        return $this->found[$path] = $uid;
    }

    /**
     * The chosen branch stands for the one of the same name and path in the file, or, where it is the outermost one here, for the one
     * above everything in the file.
     *
     * @param  list<string>  $own  names from the outermost one to the chosen one
     */
    private function shared(array $own): int
    {
        $paths = array_map(Hierarchy::names(...), array_values(array_unique($this->file->of)));
        $same = static fn (array $start): bool => $paths !== [] && array_filter($paths,
            static fn (array $p): bool => array_slice($p, 0, count($start)) !== $start) === [];
        for ($n = 0; $n < count($own); $n++) {
            if ($same(array_slice($own, $n))) {
                return count($own) - $n;
            }
        }

        return count($own) === 1 && $paths !== [] && $same([$paths[0][0] ?? '']) ? 1 : 0;
    }
}

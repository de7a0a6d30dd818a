<?php

declare(strict_types=1);

namespace App\Portfolio;

use App\Models\CodeEntry;
use App\Models\CodeSet;
use Illuminate\Support\Collection;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Schedule\RollUp;

/** Projects grouped by the hierarchy or a code set, filtered by entries of code sets, each group with its roll-up. */
final readonly class Bands
{
    /**
     * @param  list<array{id: int, parent: int|null, name: string}>  $branches  that the user sees
     * @param  list<array{uid: string, branch: int, codes: array<string, string>, part: RolledUp}>  $projects
     * @param  Collection<int, CodeSet>  $sets
     */
    public function __construct(private array $branches, private array $projects, private Collection $sets)
    {
    }

    /**
     * @param  string  $group  key of a code set, the hierarchy for any other
     * @param  array<string, string>  $only  code set => entry that projects must have, or one below it
     * @return list<array<string, mixed>> groups, those above first; groups of a code set or filter without projects are left out
     */
    public function by(string $group, array $only): array
    {
        $projects = $this->passing($only);
        $set = $this->sets->firstWhere('key', $group);
        $names = $parents = [];
        foreach ($set === null ? $this->branches : [] as $b) {
            $names["b{$b['id']}"] = $b['name'];
            $parents["b{$b['id']}"] = $b['parent'] === null ? null : "b{$b['parent']}";
        }
        $values = [];
        foreach ($set->entries ?? [] as $v) {
            $names["v{$v->id}"] = $v->name;
            $parents["v{$v->id}"] = $v->parent_id === null ? null : "v{$v->parent_id}";
            $values[$v->key] = "v{$v->id}";
        }
        if ($set !== null) {
            [$names['v-'], $parents['v-']] = [null, null];
        }
        $own = array_fill_keys(array_keys($names), []);
        $parts = [];
        foreach ($projects as $p) {
            $home = $set === null ? "b{$p['branch']}" : $values[$p['codes'][$set->key] ?? ''] ?? 'v-';
            $own[$home][] = $p['uid'];
            $parts[] = [$home, $p['part']];
        }
        $rolled = RollUp::tree($parents, $parts);
        $count = array_map(count(...), $own);
        foreach (array_keys($own) as $id) {
            for ($at = $parents[$id]; $at !== null; $at = $parents[$at]) {
                $count[$at] += count($own[$id]);
            }
        }
        $bands = [];
        foreach ($names as $id => $name) {
            $r = $rolled[$id];
            if ($count[$id] > 0 || ($set === null && $only === [])) {
                $bands[] = ['id' => $id, 'parent' => $parents[$id], 'name' => $name, 'projects' => $own[$id], 'count' => $count[$id], 'start' => $r->start, 'finish' => $r->finish, 'totalFloat' => $r->totalFloat,
                    'margin' => $r->margin, 'critical' => $r->critical, 'progress' => round($r->progress(), 4), 'work' => $r->work, 'cost' => $r->cost];
            }
        }

        return $bands;
    }

    /**
     * @param  array<string, string>  $only
     * @return list<array{uid: string, branch: int, codes: array<string, string>, part: RolledUp}>
     */
    private function passing(array $only): array
    {
        $projects = $this->projects;
        foreach ($only as $key => $value) {
            $set = $this->sets->firstWhere('key', $key);
            $allowed = $set === null ? [] : self::withSubEntries($set, $value);
            $projects = array_filter($projects, static fn (array $p): bool => isset($allowed[$p['codes'][$key] ?? '']));
        }

        return array_values($projects);
    }

    /** @return array<string, true> keys of an entry and everything below it */
    private static function withSubEntries(CodeSet $set, string $key): array
    {
        $found = [];
        $ids = [];
        do {
            $before = count($ids);
            foreach ($set->entries as $v) {
                /** @var CodeEntry $v */
                if ($v->key === $key || isset($ids[$v->parent_id])) {
                    $ids[$v->id] = true;
                    $found[$v->key] = true;
                }
            }
        } while (count($ids) > $before);

        return $found;
    }
}

<?php

declare(strict_types=1);

namespace App\Portfolio;

use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Schedule\RollUp;

/** Projects grouped by the hierarchy or a code set, filtered by entries of code sets, each group with its roll-up. */
final readonly class Bands
{
    /**
     * @param  list<array{uid: string, parent: string|null, name: string}>  $branches  that the user sees
     * @param  list<array{uid: string, branch: string, codes: array<string, string>, part: RolledUp}>  $projects codes: uid of the set =>
     *     uid of the entry
     * @param  list<CodeSet>  $sets  of projects
     * @param  list<CodeEntry>  $entries  in order
     */
    public function __construct(private array $branches, private array $projects, private array $sets, private array $entries)
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
        $set = $this->set($group);
        $names = $parents = [];
        foreach ($set === null ? $this->branches : [] as $b) {
            $names["b:{$b['uid']}"] = $b['name'];
            $parents["b:{$b['uid']}"] = $b['parent'] === null ? null : "b:{$b['parent']}";
        }
        foreach ($this->entries as $e) {
            if ($e->codeSet === $set?->uid) {
                $names["v:{$e->uid}"] = $e->name;
                $parents["v:{$e->uid}"] = $e->parent === null ? null : "v:{$e->parent}";
            }
        }
        if ($set !== null) {
            [$names['v-'], $parents['v-']] = [null, null];
        }
        $own = array_fill_keys(array_keys($names), []);
        $parts = [];
        foreach ($projects as $p) {
            $home = match (true) {
                $set === null => "b:{$p['branch']}",
                isset($p['codes'][$set->uid]) => "v:{$p['codes'][$set->uid]}",
                default => 'v-',
            };
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
                $bands[] = ['id' => $id, 'parent' => $parents[$id], 'name' => $name, 'projects' => $own[$id], 'count' => $count[$id],
                    'start' => $r->start, 'finish' => $r->finish, 'totalFloat' => $r->totalFloat,
                    'margin' => $r->margin, 'critical' => $r->critical, 'progress' => round($r->progress(), 4), 'work' => $r->work,
                    'cost' => $r->cost];
            }
        }

        return $bands;
    }

    private function set(string $key): ?CodeSet
    {
        foreach ($this->sets as $set) {
            if ($set->key === $key) {
                return $set;
            }
        }

        return null;
    }

    /**
     * @param  array<string, string>  $only
     * @return list<array{uid: string, branch: string, codes: array<string, string>, part: RolledUp}>
     */
    private function passing(array $only): array
    {
        $projects = $this->projects;
        foreach ($only as $key => $entry) {
            $set = $this->set((string) $key);
            $allowed = $set === null ? [] : $this->withSubEntries($set, $entry);
            $projects = array_filter($projects, static fn (array $p): bool => $set !== null
                && isset($allowed[$p['codes'][$set->uid] ?? '']));
        }

        return array_values($projects);
    }

    /** @return array<string, true> uids of an entry and everything below it */
    private function withSubEntries(CodeSet $set, string $key): array
    {
        $found = [];
        do {
            $before = count($found);
            foreach ($this->entries as $e) {
                if ($e->codeSet === $set->uid && ($e->key === $key || isset($found[$e->parent ?? '']))) {
                    $found[$e->uid] = true;
                }
            }
        } while (count($found) > $before);

        return $found;
    }
}

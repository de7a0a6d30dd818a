<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Database\Rows;
use App\Planning\Ids;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** Branches; the path of each (ids from the root, each followed by a slash) follows from those above it. */
final class BranchTable extends DescribedTable
{
    public function writeBeside(array $entities, Ids $ids, Plan $plan): void
    {
        if ($entities === []) {
            return;
        }
        $paths = [];
        foreach (Rows::all('SELECT id, path FROM branches') as [$id, $path]) {
            $paths[(int) $id] = (string) $path;
        }
        foreach ($plan->branches as $branch) {
            $path = '';
            for ($at = $branch; $at !== null; $at = $at->parent === null ? null : $plan->branches[$at->parent]) {
                $path = $ids->id(EntityKind::Branch, $at->uid)."/{$path}";
            }
            $id = $ids->id(EntityKind::Branch, $branch->uid);
            if ($paths[$id] !== $path) {
                DB::table('branches')->where('id', $id)->update(['path' => $path]);
            }
        }
    }
}

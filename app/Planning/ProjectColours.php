<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Project;

/** Every project has a colour of its own; a new one gets the colour that is rarest among its neighbours on the branch, then overall. */
final class ProjectColours
{
    /**
     * @param  list<Operation>  $operations
     * @return list<Operation> with a colour for every new project that has none
     */
    public static function assign(array $operations): array
    {
        $used = null;
        foreach ($operations as $i => $o) {
            if ($o->kind !== EntityKind::Project || $o->verb !== Verb::Create || isset($o->after['colour'])) {
                continue;
            }
            $used ??= DB::table('projects')->join('branches', 'branches.id', '=', 'projects.branch_id')->whereNotNull('colour')
                ->get(['branches.uid', 'colour'])
                ->map(static fn (object $p): array => [(string) $p->uid, (int) $p->colour])->all();
            $branch = is_string($o->after['branch'] ?? null) ? $o->after['branch'] : '';
            $colour = self::rarest($used, $branch);
            $used[] = [$branch, $colour];
            $operations[$i] = Operation::create($o->kind, $o->uid, ['colour' => $colour] + ($o->after ?? []));
        }

        return $operations;
    }

    /** @param  array<int, array{string, int}>  $used  branch and colour of the projects there are */
    public static function rarest(array $used, string $branch): int
    {
        $counts = array_fill(1, Project::COLOURS, 0);
        foreach ($used as [$of, $colour]) {
            $counts[$colour] += $of === $branch ? 10_000 : 1;
        }

        return (int) array_search(min($counts), $counts, true);
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Coding\ProjectKey;
use Reihe\Core\CoreException;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;

/** A table or outline as a plan of its own: one project, which begins on the earliest start of the table. */
final class TablePlan
{
    /**
     * @param  Project  $project  of rows that name none
     * @param  Plan  $shared  projects, calendars, code sets and own fields that are known already
     * @return array{Plan, list<string>} and what was not understood
     *
     * @throws FormatError
     */
    public static function read(Sheet $sheet, Project $project, Plan $shared): array
    {
        $objects = $notes = [];
        foreach (self::byProject($sheet, $project, $shared) as [$of, $rows]) {
            [$plan, $said] = self::one($rows, $of, $shared);
            foreach (EntityKind::cases() as $kind) {
                $objects[$kind->value] = ($objects[$kind->value] ?? []) + $plan->all($kind);
            }
            array_push($notes, ...$said);
        }

        return [Plan::from($objects, []), array_values(array_unique($notes))];
    }

    /**
     * A column that is headed so names the project of each row; the row of a project is called by its key.
     *
     * @return list<array{Project, Sheet}>
     */
    private static function byProject(Sheet $sheet, Project $project, Plan $shared): array
    {
        $first = (int) array_key_first($sheet->rows);
        $head = $sheet->rows[$first] ?? ['indent' => 0, 'cells' => []];
        $at = array_search('project', array_map(mb_strtolower(...), $head['cells']), true);
        if (! is_int($at)) {
            return [[$project, $sheet]];
        }
        $groups = $names = [];
        foreach ($sheet->rows as $line => $row) {
            $key = trim($row['cells'][$at] ?? '');
            if ($line === $first) {
                continue;
            }
            if ($row['indent'] === 0 && in_array($key, array_diff_key($row['cells'], [$at => 0]), true)) {
                $others = array_filter(array_diff($row['cells'], [$key]), static fn (string $c): bool => $c !== '');
                $names[$key] = $others === [] ? $key : reset($others);
                $groups[$key] ??= [$first => $head];
            } else {
                $groups[$key] = ($groups[$key] ?? [$first => $head]) + [$line => $row];
            }
        }
        $known = array_column(array_map(static fn (Project $p): array => [$p->key, $p], array_values($shared->projects)), 1, 0);
        $taken = [];
        $made = [];
        foreach ($groups as $key => $rows) {
            $key = (string) $key;
            $of = $known[$key] ?? null;
            if ($of === null && $key !== '') {
                $free = preg_match('/^[A-Z0-9][A-Z0-9-]{0,19}$/D', $key) === 1 && ! isset($taken[$key]) ? $key
                    : ProjectKey::propose($key, static fn (string $k): bool => isset($taken[$k]));
                $of = EntityKind::Project->read("project-{$free}", ['key' => $free, 'name' => $names[$key] ?? $key] + $project->fields());
            }
            $of = $of instanceof Project ? $of : $project;
            $taken[$of->key] = true;
            $made[] = [$of, new Sheet($sheet->name, $rows)];
        }

        return $made;
    }

    /** @return array{Plan, list<string>} */
    private static function one(Sheet $sheet, Project $project, Plan $shared): array
    {
        $text = $sheet->text();
        try {
            $dates = array_column(self::rows($text, $project, $shared)->dates, 'start');
            $start = array_filter($dates, is_int(...));
            if ($start !== [] && ! isset($shared->projects[$project->uid])) {
                $project = EntityKind::Project->read($project->uid, ['start' => Instant::format(min($start))] + $project->fields());
                assert($project instanceof Project);
            }
            $rows = self::rows($text, $project, $shared);
            $plan = ChangeSet::apply(self::with($project, $shared), $rows->operations)->plan;
        } catch (CoreException $e) {
            throw new FormatError($e->getMessage(), 1);
        }
        $notes = $found = [];
        foreach ($rows->columns->meanings as $at => $meaning) {
            if ($meaning === 'ignore' && mb_strtolower($rows->headings[$at] ?? '') !== 'project') {
                $notes[] = 'Column “'.($rows->headings[$at] ?? $at + 1).'” was left out.';
            }
        }
        foreach ($rows->findings as $finding) {
            $found[$finding['check']][] = $finding;
        }
        foreach ($found as $list) {
            $more = count($list) - 1;
            $notes[] = "Line {$list[0]['line']} {$list[0]['text']}".($more === 0 ? '.' : "; {$more} more like it.");
        }

        return [$plan, $notes];
    }

    private static function rows(string $text, Project $project, Plan $shared): PastedRows
    {
        return PastedRows::of(self::with($project, $shared), new PasteWish($project->uid,
            stem: $project->key.hash('xxh64', $text)), $text); // rows of another file are others, wherever they stand
    }

    private static function with(Project $project, Plan $shared): Plan
    {
        $objects = ['project' => [$project->uid => $project]];
        foreach ([EntityKind::Calendar, EntityKind::CodeSet, EntityKind::Entry, EntityKind::OwnField] as $kind) {
            $objects[$kind->value] = $shared->all($kind);
        }

        return Plan::from($objects, []);
    }
}

<?php

declare(strict_types=1);

namespace App\Resources;

use App\Access\Owners;
use App\Access\Reach;
use App\Database\Rows;
use App\Planning\PlanStore;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Resource;

/** Resources of the enterprise: what they are, whose, and what they are assigned to as far as the user sees it. */
final readonly class ResourceList
{
    /** assignments in one answer */
    private const MOST = 500;

    public function __construct(private Reach $reach)
    {
    }

    /** @return list<array<string, mixed>> in the order of their keys */
    public function all(): array
    {
        $owners = new Owners($this->reach);
        $branches = $this->reach->branchUids();
        $uses = $this->uses();
        $resources = array_values(PlanStore::load([])[0]->resources);
        usort($resources, static fn (Resource $a, Resource $b): int => strnatcasecmp($a->key, $b->key));

        return array_map(static fn (Resource $r): array => ['uid' => $r->uid] + $r->fields()
            + ['branch' => $branches[$owners->of(EntityKind::Resource, $r->uid)] ?? null,
                'mayChange' => $owners->may(EntityKind::Resource, $r->uid)] + ($uses[$r->uid] ?? ['uses' => 0, 'usesBeyond' => 0]),
            $resources);
    }

    /** @return array<string, array{uses: int, usesBeyond: int}> by resource: assignments that the user sees, and others */
    private function uses(): array
    {
        $uses = [];
        foreach (Rows::all('SELECT r.uid, p.branch_id, COUNT(*) FROM assignments s JOIN resources r ON r.id = s.resource_id
            JOIN projects p ON p.id = s.project_id GROUP BY r.uid, p.branch_id') as $row) {
            /** @var array{string, int, int} $row */
            [$uid, $branch, $count] = $row;
            $uses[$uid] ??= ['uses' => 0, 'usesBeyond' => 0];
            $uses[$uid][$this->reach->roleOn($branch) === null ? 'usesBeyond' : 'uses'] += $count;
        }

        return $uses;
    }

    /**
     * What a resource is assigned to: rows of all projects that the user sees, and what is left to do in others as one sum.
     *
     * @return array{assignments: list<array<string, mixed>>, more: bool, beyond: array{assignments: int, remainingWork: int}}
     */
    public function assignments(string $uid): array
    {
        $id = Rows::all('SELECT id FROM resources WHERE uid IN '.Rows::quoted([$uid]))[0][0] ?? null;
        abort_if(! is_int($id), 404);
        $live = "p.kept IN ('".Kept::Here->value."', '".Kept::Outside->value."')";
        $beyond = ['assignments' => 0, 'remainingWork' => 0];
        $rows = [];
        foreach (Rows::all("SELECT p.branch_id, s.uid, a.uid, a.code, a.name, p.`key`, d.start, d.finish, s.remaining_work, s.actual_work,
                s.intensity, s.quantity, a.actual_finish IS NOT NULL
            FROM assignments s JOIN activities a ON a.id = s.activity_id JOIN projects p ON p.id = s.project_id
            LEFT JOIN activity_dates d ON d.activity_id = a.id
            WHERE s.resource_id = {$id} AND {$live} ORDER BY d.start, a.code") as $row) {
            /** @var non-empty-list<int|string|null> $row */
            $branch = (int) array_shift($row);
            if ($this->reach->roleOn($branch) === null) {
                $beyond['assignments']++;
                $beyond['remainingWork'] += (int) $row[7];
            } else {
                $rows[] = array_combine(['uid', 'activity', 'code', 'name', 'project', 'start', 'finish', 'remainingWork', 'actualWork',
                    'intensity', 'quantity', 'finished'], [...array_slice($row, 0, 11), (bool) $row[11]]);
            }
        }

        return ['assignments' => array_slice($rows, 0, self::MOST), 'more' => count($rows) > self::MOST, 'beyond' => $beyond];
    }
}

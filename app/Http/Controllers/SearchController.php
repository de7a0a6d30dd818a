<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\History\Labels;
use App\Planning\Tables\Table;
use App\Portfolio\BranchRemarks;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;

/** Finds projects and what is in them by what they are called: key, code, name or text. */
final class SearchController
{
    private const LIMIT = 12;

    public function __construct(private readonly Reach $reach)
    {
    }

    public function __invoke(Request $request): JsonResponse
    {
        /** @var array{q: string} $input */
        $input = $request->validate(['q' => 'required|string|max:100']);
        $like = '%'.addcslashes($input['q'], '%_\\').'%';
        $live = [Kept::Here->value, Kept::Outside->value];
        $projects = $this->reach->limit(DB::table('projects'))->whereIn('kept', $live)
            ->where(static fn (Builder $w): Builder => $w->where('key', 'like', $like)->orWhere('name', 'like', $like))
            ->orderBy('key')->limit(self::LIMIT)->get(['uid', 'key', 'name']);
        $activities = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
            ->whereIn('kept', $live)->where(static fn (Builder $w): Builder => $w->where('activities.code', 'like', $like)
            ->orWhere('activities.name', 'like', $like))
            ->orderBy('activities.code')->limit(self::LIMIT)
            ->get(['activities.uid', 'activities.code', 'activities.name', 'projects.key as project']);

        return new JsonResponse(['projects' => $projects->all(), 'activities' => $activities->all(),
            'objects' => [...$this->objects($like, $live), ...$this->onBranches($like)]]);
    }

    /**
     * @return list<array{uid: string, kind: string, label: string, activity: null, project: null,
     *     branch: array{uid: string, name: string}}>
     */
    private function onBranches(string $like): array
    {
        $found = [];
        foreach ($this->reach->limit(BranchRemarks::query()->join('branches as b', 'b.uid', '=', 'r.branch'), 'b.id')
            ->where('r.text', 'like', $like)->orderBy('r.id')->limit(self::LIMIT)->get(['r.uid', 'r.text', 'b.uid as branch',
                'b.name']) as $row) {
            /** @var object{uid: string, text: string, branch: string, name: string} $row */
            $found[] = ['uid' => $row->uid, 'kind' => EntityKind::Remark->value, 'label' => $row->text, 'activity' => null,
                'project' => null, 'branch' => ['uid' => $row->branch, 'name' => $row->name]];
        }

        return $found;
    }

    /**
     * What else is in projects.
     *
     * @param  list<string>  $live
     * @return list<array{uid: string, kind: string, label: string, activity: string|null, project: string, branch: null}>
     */
    private function objects(string $like, array $live): array
    {
        $found = [];
        foreach (EntityKind::inProjects() as $kind) {
            $called = $kind->entry()->called;
            if ($called === [] || $kind === EntityKind::Activity || count($found) >= self::LIMIT) {
                continue;
            }
            $table = Table::of($kind)->name();
            $query = $this->reach->limit(DB::table($table)->join('projects', 'projects.id', '=', "{$table}.project_id"))
                ->whereIn('kept', $live)->orderBy("{$table}.id")->limit(self::LIMIT - count($found));
            $query->where(static fn (Builder $w): Builder => $w->whereAny(array_map(
                static fn (string $field): string => "{$table}.".Str::snake($field), $called), 'like', $like));
            $columns = ["{$table}.uid", 'projects.key as of', ...array_map(
                static fn (string $field): string => "{$table}.".Str::snake($field)." as {$field}", $called)];
            if (isset($kind->fields()['activity'])) {
                $query->leftJoin('activities', 'activities.id', '=', "{$table}.activity_id");
                isset($kind->fields()['wbs']) && $query->leftJoin('wbs_elements', 'wbs_elements.id', '=', "{$table}.wbs_id");
                $columns[] = isset($kind->fields()['wbs']) ? DB::raw('COALESCE(activities.uid, wbs_elements.uid) as `on`')
                    : 'activities.uid as on';
            }
            foreach ($query->get($columns) as $row) {
                /** @var array{uid: string, of: string, on?: string|null} $row */
                $row = (array) $row;
                $found[] = ['uid' => $row['uid'], 'kind' => $kind->value, 'label' => Labels::called($kind, $row) ?? '',
                    'activity' => $row['on'] ?? null, 'project' => $row['of'], 'branch' => null];
            }
        }

        return $found;
    }
}

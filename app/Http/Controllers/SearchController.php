<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\Kept;

/** Finds projects and activities by key, code or name. */
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

        return new JsonResponse(['projects' => $projects->all(), 'activities' => $activities->all()]);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Baselines\BaselineStore;
use App\Database\Rows;
use App\Http\PlainText;
use App\Planning\Connected;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Baseline\Comparison;
use Reihe\Core\Baseline\Variance;
use Reihe\Core\Plan\Role;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Time\Instant;

/** Baselines of a project: list, take, rename, make current, delete, compare. */
final class BaselineController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(string $project): JsonResponse
    {
        $this->project($project);
        $list = DB::table('baselines')->leftJoin('users', 'users.id', '=', 'author_id')->where('project_uid', $project)
            ->orderByDesc('baselines.id')
            ->get(['baselines.uid', 'baselines.name', 'taken', 'current', 'users.name as author']);

        return new JsonResponse(['baselines' => $list
            ->map(static fn (object $b): array => ['uid' => $b->uid, 'name' => $b->name, 'taken' => $b->taken,
                'current' => (bool) $b->current, 'author' => $b->author])->all()]);
    }

    public function create(Request $request, string $project): JsonResponse
    {
        /** @var array{name: string, current?: bool} $input */
        $input = $request->validate(['name' => ['required', 'string', 'max:120', new PlainText], 'current' => 'boolean']);
        $id = $this->project($project, Role::Planner);
        $connected = Connected::with([$id]);
        $baseline = Baseline::take($connected->schedule, RollUp::of($connected->schedule), $project, (string) Str::ulid(),
            trim($input['name']), Instant::parse(now()->format('Y-m-d\TH:i')));
        $current = $input['current'] ?? false;
        BaselineStore::save($baseline, $this->reach->user, $current);

        return new JsonResponse(['uid' => $baseline->uid, 'name' => $baseline->name, 'taken' => $baseline->taken, 'current' => $current,
            'author' => $this->reach->user->name], 201);
    }

    public function update(Request $request, string $baseline): JsonResponse
    {
        /** @var array{name?: string, current?: bool} $input */
        $input = $request->validate(['name' => ['string', 'min:1', 'max:120', new PlainText], 'current' => 'boolean']);
        [$id, $project] = $this->baseline($baseline, Role::Planner);
        DB::transaction(static function () use ($input, $id, $project): void {
            DB::table('projects')->where('uid', $project)->lockForUpdate()->value('id');
            if (isset($input['name'])) {
                DB::table('baselines')->where('id', $id)->update(['name' => trim($input['name'])]);
            }
            if (isset($input['current'])) {
                BaselineStore::makeCurrent($project, $input['current'] ? $id : null);
            }
        });

        return new JsonResponse(['uid' => $baseline] + $input);
    }

    public function delete(string $baseline): Response
    {
        [$id] = $this->baseline($baseline, Role::Planner);
        DB::table('baselines')->where('id', $id)->delete();

        return response()->noContent();
    }

    public function compare(string $baseline): JsonResponse
    {
        [, $project] = $this->baseline($baseline, Role::Viewer);
        $connected = Connected::with([$this->project($project)]);
        $comparison = Comparison::of(BaselineStore::load($baseline), $connected->schedule, RollUp::of($connected->schedule));

        return new JsonResponse([
            'total' => $comparison->total === null ? null : self::variance('', $comparison->total),
            'activities' => array_map(self::variance(...), array_map(strval(...), array_keys($comparison->activities)),
                array_values($comparison->activities)),
            'wbs' => array_map(self::variance(...), array_map(strval(...), array_keys($comparison->wbs)), array_values($comparison->wbs)),
        ]);
    }

    /** When each activity lay then, as columns, to be drawn beside the bars of now. */
    public function dates(string $baseline): JsonResponse
    {
        [$id] = $this->baseline($baseline, Role::Viewer);
        $rows = Rows::all("SELECT uid, start, finish FROM baseline_rows WHERE baseline_id = {$id} AND kind = 'activity'");

        return new JsonResponse(['uid' => array_column($rows, 0), 'start' => array_column($rows, 1), 'finish' => array_column($rows, 2)]);
    }

    /** @return array<string, mixed> */
    private static function variance(string $uid, Variance $v): array
    {
        $row = static fn (?BaselineRow $r): ?array => $r === null ? null : array_diff_key(get_object_vars($r), ['code' => 0, 'name' => 0]);
        $named = $v->now ?? $v->baseline;

        return ['uid' => $uid, 'code' => $named?->code, 'name' => $named?->name, 'standing' => $v->standing->value,
            'baseline' => $row($v->baseline), 'now' => $row($v->now),
            'start' => $v->start, 'finish' => $v->finish, 'duration' => $v->duration, 'work' => $v->work, 'cost' => $v->cost];
    }

    /** Id of a project within reach. */
    private function project(string $uid, Role $role = Role::Viewer): int
    {
        /** @var object{id: int, branch_id: int}|null $found */
        $found = $this->reach->limit(DB::table('projects'))->where('uid', $uid)->first(['id', 'branch_id']);
        abort_if($found === null, 404);
        $this->reach->require($role, $found->branch_id);

        return $found->id;
    }

    /** @return array{int, string} id of the baseline and uid of its project */
    private function baseline(string $uid, Role $role): array
    {
        $found = DB::table('baselines')->where('uid', $uid)->first(['id', 'project_uid']);
        abort_if($found === null, 404);
        /** @var object{id: int, project_uid: string} $found */
        $this->project($found->project_uid, $role);

        return [$found->id, $found->project_uid];
    }
}

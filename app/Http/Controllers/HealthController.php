<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Baselines\BaselineStore;
use App\Health\ThresholdStore;
use App\Health\WaiverStore;
use App\Planning\Connected;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Reihe\Core\Health\Check;
use Reihe\Core\Health\Examination;
use Reihe\Core\Health\Finding;
use Reihe\Core\Health\RedundantLinks;
use Reihe\Core\Plan\Role;

/** Findings about the schedules of projects, and the thresholds they are measured by. */
final class HealthController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function show(Request $request): JsonResponse
    {
        $ids = $this->reach->projectsByKey(array_values(array_filter(explode(',', (string) $request->string('projects')))));
        $thresholds = ThresholdStore::load();
        $schedule = Connected::with($ids)->schedule->calculated();
        /** @var list<string> $uids */
        $uids = DB::table('projects')->whereIn('id', $ids)->orderBy('key')->pluck('uid')->all();
        $redundant = new RedundantLinks($schedule->network);
        $projects = [];
        foreach ($uids as $uid) {
            $findings = Examination::of($schedule, $uid, BaselineStore::current($uid), $thresholds, $redundant);
            $waived = WaiverStore::of($uid);
            $projects[] = ['uid' => $uid, 'key' => $schedule->plan->projects[$uid]->key, 'findings' => array_map(
                static fn (Finding $f): array => self::finding($f->without($waived[$f->check->value] ?? [], $schedule->plan))
                    + ['waived' => array_values(
                        array_intersect_key($waived[$f->check->value] ?? [], array_flip($f->activities)))], $findings)];
        }

        return new JsonResponse(['projects' => $projects]);
    }

    /** Activities that a check found and that are left as they are, with the reason; without one they count again. */
    public function waive(Request $request): JsonResponse
    {
        /** @var array{project: string, check: string, activities: list<string>, reason?: string|null} $input */
        $input = $request->validate(['project' => 'required|string', 'check' => ['required', Rule::enum(Check::class)],
            'activities' => 'required|array|min:1|max:2000', 'activities.*' => 'required|string|max:64',
            'reason' => 'nullable|string|max:300']);
        /** @var object{id: int, branch_id: int}|null $project */
        $project = $this->reach->limit(DB::table('projects'))->where('uid', $input['project'])->first(['id', 'branch_id']);
        abort_if($project === null, 404);
        $this->reach->require(Role::Planner, $project->branch_id);
        WaiverStore::set($project->id, Check::from($input['check']), $input['activities'], trim($input['reason'] ?? ''),
            $this->reach->user->name);

        return new JsonResponse(['waived' => array_values(WaiverStore::of($input['project'])[$input['check']] ?? [])]);
    }

    public function thresholds(): JsonResponse
    {
        $thresholds = ThresholdStore::load();

        return new JsonResponse(['mayChange' => $this->reach->mayAnywhere(Role::Administrator),
            'checks' => array_map(static fn (Check $c): array => [
                'check' => $c->value, 'severity' => $c->severity()->value, 'unit' => $c->unit()->value, 'source' => $c->source(),
                'limit' => $thresholds->limit($c), 'days' => $thresholds->days($c), 'usualLimit' => $c->limit(), 'usualDays' => $c->days(),
            ], Check::cases())]);
    }

    public function setThresholds(Request $request): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Administrator);
        $request->validate(['checks' => 'present|array']);
        ThresholdStore::save($request->array('checks'));

        return $this->thresholds();
    }

    /** @return array<string, mixed> */
    private static function finding(Finding $f): array
    {
        return ['check' => $f->check->value, 'severity' => $f->check->severity()->value, 'unit' => $f->check->unit()->value,
            'fine' => $f->fine, 'limit' => $f->limit, 'days' => $f->days,
            'count' => $f->count, 'population' => $f->population, 'value' => $f->value, 'activities' => $f->activities,
            'links' => $f->links, 'elapsed' => (object) $f->elapsed, 'source' => $f->check->source()];
    }
}

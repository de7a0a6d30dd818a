<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Owners;
use App\Access\Reach;
use App\Health\ProjectHealth;
use App\Health\ThresholdStore;
use App\Health\WaiverStore;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Health\Check;
use Reihe\Core\Health\Finding;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Role;

/** Findings about the schedules of projects, and the thresholds they are measured by. */
final class HealthController
{
    /** projects that are marked in one answer */
    private const MARKED = 80;

    public function __construct(private readonly Reach $reach)
    {
    }

    public function show(Request $request): JsonResponse
    {
        $ids = $this->reach->projectsByKey(array_values(array_filter(explode(',', (string) $request->string('projects')))));
        $keys = DB::table('projects')->whereIn('id', $ids)->pluck('key', 'uid');
        $projects = [];
        foreach (ProjectHealth::of($ids) as $uid => $findings) {
            $projects[] = ['uid' => $uid, 'key' => $keys[$uid], 'findings' => array_map(
                static fn (array $found): array => self::finding($found[0]) + ['waived' => $found[1]], $findings)];
        }

        return new JsonResponse(['projects' => $projects]);
    }

    /** Marks for the rows of the portfolio. */
    public function marks(Request $request): JsonResponse
    {
        $keys = array_slice(array_values(array_filter(explode(',', (string) $request->string('projects')))), 0, self::MARKED);

        return new JsonResponse(['marks' => (object) ProjectHealth::marks($this->reach->projectsByKey($keys))]);
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

        return new JsonResponse(['waived' => array_values(WaiverStore::of([$project->id])[$input['project']][$input['check']] ?? [])]);
    }

    public function thresholds(): JsonResponse
    {
        $thresholds = ThresholdStore::load();

        return new JsonResponse(['mayChange' => (new Owners($this->reach))->mayForAll(),
            'checks' => array_map(static fn (Check $c): array => [
                'check' => $c->value, 'severity' => $c->severity()->value, 'unit' => $c->unit()->value, 'source' => $c->source(),
                'limit' => $thresholds->limit($c), 'days' => $thresholds->days($c), 'usualLimit' => $c->limit(), 'usualDays' => $c->days(),
            ], Check::cases())]);
    }

    public function setThresholds(Request $request): JsonResponse
    {
        if (! (new Owners($this->reach))->mayForAll()) {
            throw new AuthorizationException('You need the administrator role on the root branch.');
        }
        $request->validate(['checks' => 'present|array']);
        try {
            ThresholdStore::save($request->array('checks'));
        } catch (InvalidField $e) {
            throw ValidationException::withMessages(["checks.{$e->field}" => ucfirst(trim("{$e->field} {$e->why}"))]);
        }

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

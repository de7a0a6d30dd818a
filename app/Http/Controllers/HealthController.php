<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Baselines\BaselineStore;
use App\Health\ThresholdStore;
use App\Planning\Connected;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
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
            $projects[] = ['uid' => $uid, 'key' => $schedule->plan->projects[$uid]->key,
                'findings' => array_map(self::finding(...), $findings)];
        }

        return new JsonResponse(['projects' => $projects]);
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

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Board\BoardQuery;
use App\Planning\PlanStore;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Schedule\Reason;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\Schedule;

/** The rows of a working set, and why an activity lies where it lies. */
final class BoardController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function show(Request $request): JsonResponse
    {
        $keys = array_values(array_filter(explode(',', (string) $request->string('projects'))));

        return new JsonResponse((new BoardQuery($this->reach, $this->reach->projectsByKey($keys)))->all());
    }

    public function reasons(string $uid): JsonResponse
    {
        $found = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))->where('activities.uid', $uid)->value('projects.id');
        abort_if(! is_int($found), 404);
        $schedule = Schedule::of(PlanStore::load(PlanStore::connected([$found]))->plan);
        $visible = $this->reach->projects();
        $reasons = Reasons::of($schedule, $uid);

        return new JsonResponse(['waiting' => $reasons->waiting, 'reasons' => array_map(fn (Reason $r): array => ['kind' => $r->kind, 'moment' => $r->moment, 'link' => $this->link($schedule, $r, $visible)], $reasons->reasons)]);
    }

    /**
     * @param  array<string, int>  $visible
     * @return array<string, mixed>|null
     */
    private function link(Schedule $schedule, Reason $reason, array $visible): ?array
    {
        if ($reason->link === null || $reason->from === null) {
            return null;
        }
        $link = $schedule->plan->links[$reason->link];
        $from = $schedule->plan->activities[$reason->from];
        $seen = isset($visible[$from->project]);

        return ['uid' => $seen ? $link->uid : null, 'type' => $link->type->value, 'lag' => $link->lag, 'from' => $seen ? $from->uid : null,
            'label' => $seen ? $schedule->plan->label($from->uid) : null, 'name' => $seen ? $from->name : null];
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Owners;
use App\Access\Reach;
use App\Planning\PlanStore;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Role;

/** Calendars of the enterprise with what they say themselves, and who uses them as far as one sees. */
final class CalendarController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(): JsonResponse
    {
        [$plan] = PlanStore::load([]);
        $owners = new Owners($this->reach);
        $users = $this->users();
        $list = [];
        foreach ($plan->calendars as $uid => $calendar) {
            $list[] = ['uid' => (string) $uid] + $calendar->fields() + ['mayChange' => $owners->may(EntityKind::Calendar, (string) $uid)]
                + ($users[$uid] ?? ['projects' => [], 'beyond' => false]);
        }

        return new JsonResponse(['calendars' => array_map(
            static fn (array $c): array => ['week' => (object) (array) $c['week']] + $c, $list),
            'mayAdd' => $this->reach->mayAnywhere(Role::Planner)]);
    }

    /**
     * @return array<string, array{projects: list<string>, beyond: bool}> by calendar: keys of projects that use it, and whether others do
     */
    private function users(): array
    {
        $used = DB::table('projects as p')->join('calendars as c', 'c.id', '=', 'p.calendar_id')->select(['c.uid', 'p.id'])
            ->union(DB::table('activities as a')->join('calendars as c', 'c.id', '=', 'a.calendar_id')->select(['c.uid', 'a.project_id']));
        /** @var array<int, string> $visible */
        $visible = $this->reach->limit(DB::table('projects'))->orderBy('projects.key')->pluck('projects.key', 'projects.id')->all();
        $users = [];
        /** @var object{uid: string, id: int} $row */
        foreach (DB::query()->fromSub($used, 'u')->get() as $row) {
            $users[$row->uid] ??= ['projects' => [], 'beyond' => false];
            if (isset($visible[$row->id])) {
                $users[$row->uid]['projects'][] = $visible[$row->id];
            } else {
                $users[$row->uid]['beyond'] = true;
            }
        }
        foreach ($users as &$of) {
            sort($of['projects']);
        }

        return $users;
    }
}

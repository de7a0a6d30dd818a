<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Baselines\BaselineStore;
use App\Drafts\ChangeAnswer;
use App\Models\ChangeSet;
use App\Planning\ChangeRequest;
use App\Planning\Outcome;
use App\Planning\Planning;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Plan\WholeDays;
use Reihe\Core\Progress\Assumption;
use Reihe\Core\Progress\Recording;
use Reihe\Core\Progress\Report;
use Reihe\Core\Progress\StatusMove;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** Progress of activities, and the status date of a project, as change sets. */
final class ProgressController
{
    public function __construct(private readonly Reach $reach, private readonly Planning $planning)
    {
    }

    public function report(Request $request): JsonResponse
    {
        $request->validate(['reports' => 'required|array|min:1|max:5000', 'dryRun' => 'boolean', 'reason' => 'nullable|string|max:500']);
        $reports = [];
        foreach (array_values($request->array('reports')) as $position => $data) {
            $reports[] = Report::fromArray(is_array($data) ? $data
                : throw new InvalidOperation($position, null, 'must be an object', 'reports'), $position);
        }
        $uids = array_map(static fn (Report $r): string => $r->activity, $reports);
        /** @var list<int> $projects */
        $projects = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
            ->whereIn('activities.uid', array_filter($uids, Uid::isSound(...)))->distinct()->pluck('projects.id')->all();
        $schedule = $this->planning->schedule($projects);
        $in = array_filter(array_map($schedule->plan->projectOf(...), $uids));
        $branches = $this->reach->limit(DB::table('projects'))->whereIn('uid', array_unique($in))->pluck('branch_id', 'uid');
        foreach ($uids as $position => $uid) {
            $branch = $branches[$schedule->plan->projectOf($uid) ?? ''] ?? null;
            $this->reach->require(Role::Contributor, is_int($branch) ? $branch
                : throw new InvalidOperation($position, 'activity', 'does not exist (any more)', 'reports'));
        }
        $reports = [];
        foreach (array_values($request->array('reports')) as $position => $data) { // dates without an hour, on the calendar of each
            /** @var array<string, mixed> $data */
            $reports[] = Report::fromArray(WholeDays::timed(EntityKind::Activity, $data,
                static fn (): WorkAxis => $schedule->axis($uids[$position])), $position);
        }
        $recorded = Recording::of($schedule, $reports, BaselineStore::starts($uids));
        $outcome = $this->carryOut($request,
            new ChangeRequest($recorded->operations, $this->revisions($request), 'progress', (string) $request->string('reason'),
                $this->uid($request), role: Role::Contributor));

        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->query('board'), $this->revisions($request)) + [
            'assumptions' => array_map(static fn (Assumption $a): array => ['activity' => $a->activity, 'field' => $a->field,
                'moment' => $a->moment, 'because' => $a->because], $recorded->assumptions),
        ]);
    }

    /** Moves the status date, and unfinished work behind it. */
    public function statusDate(Request $request, string $project): JsonResponse
    {
        /** @var array{statusDate: string} $input */
        $input = $request->validate(['statusDate' => 'required|string', 'seen' => 'nullable|string', 'dryRun' => 'boolean']);
        $status = self::date($input['statusDate']);
        /** @var object{id: int, branch_id: int}|null $found */
        $found = $this->reach->limit(DB::table('projects'))->where('uid', $project)->first(['id', 'branch_id']);
        abort_if($found === null, 404);
        $this->reach->require(Role::Planner, $found->branch_id);
        $operations = StatusMove::to($this->planning->schedule([$found->id]), $project, $status,
            $request->has('seen') ? [$request->input('seen')] : []);
        $outcome = $this->carryOut($request,
            new ChangeRequest($operations, $this->revisions($request), 'progress', "status date {$status}",
                $this->uid($request)));

        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->query('board'),
            $this->revisions($request)) + ['operations' => count($outcome->operations)]);
    }

    /** The same status date for several projects, as one change set. */
    public function statusDates(Request $request): JsonResponse
    {
        /** @var array{projects: list<string>, statusDate: string} $input */
        $input = $request->validate(['projects' => 'required|array|min:1|max:500', 'projects.*' => 'required|string|distinct',
            'statusDate' => 'required|string', 'dryRun' => 'boolean']);
        $status = self::date($input['statusDate']);
        /** @var array<string, object{id: int, uid: string, branch_id: int, kept: string}> $found */
        $found = $this->reach->limit(DB::table('projects'))->whereIn('uid', $input['projects'])->get(['id', 'uid', 'branch_id', 'kept'])
            ->keyBy('uid')->all();
        $operations = $ids = [];
        foreach ($input['projects'] as $uid) {
            abort_if(! isset($found[$uid]), 404);
            $this->reach->require(Role::Planner, $found[$uid]->branch_id);
            $ids[] = $found[$uid]->id;
        }
        $schedule = $this->planning->schedule($ids);
        foreach ($input['projects'] as $uid) {
            array_push($operations, ...StatusMove::to($schedule, $uid, $status));
        }
        $outcome = $this->carryOut($request, new ChangeRequest($operations, $this->revisions($request), 'progress',
            "status date {$status} of ".count($ids).' projects', $this->uid($request)));

        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->query('board'),
            $this->revisions($request)) + ['operations' => count($outcome->operations)]);
    }

    private static function date(string $text): string
    {
        try {
            Instant::parse($text);

            return $text;
        } catch (InvalidInstant $e) {
            throw new InvalidField('statusDate', $e->getMessage());
        }
    }

    private function carryOut(Request $request, ChangeRequest $wish): Outcome
    {
        return $request->boolean('dryRun') ? $this->planning->dryRun($wish) : $this->planning->commit($wish);
    }

    /** @return array<string, int> project uid => revision that the author saw */
    private function revisions(Request $request): array
    {
        /** @var array{revisions?: array<string, int>} $input */
        $input = $request->validate(['revisions' => 'array', 'revisions.*' => 'integer|min:0']);

        return array_map(intval(...), $input['revisions'] ?? []);
    }

    private function uid(Request $request): ?string
    {
        /** @var array{changeSet?: string|null} $input */
        $input = $request->validate(['changeSet' => ['nullable', 'string', 'regex:'.ChangeSet::UID]]);

        return $input['changeSet'] ?? null;
    }
}

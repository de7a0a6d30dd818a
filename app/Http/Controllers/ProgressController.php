<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Baselines\BaselineStore;
use App\Board\ChangeAnswer;
use App\Planning\Connected;
use App\Planning\Planning;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Progress\Assumption;
use Reihe\Core\Progress\Recording;
use Reihe\Core\Progress\Report;
use Reihe\Core\Progress\StatusMove;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** Progress of activities, and the status date of a project, as change sets. */
final class ProgressController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function report(Request $request): JsonResponse
    {
        $request->validate(['reports' => 'required|array|min:1|max:5000', 'dryRun' => 'boolean', 'reason' => 'nullable|string|max:500']);
        $reports = [];
        foreach (array_values($request->array('reports')) as $position => $data) {
            $reports[] = Report::fromArray(is_array($data) ? $data : throw new InvalidOperation($position, null, 'must be an object'), $position);
        }
        $uids = array_map(static fn (Report $r): string => $r->activity, $reports);
        /** @var array<string, int> $projects */
        $projects = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))->whereIn('activities.uid', $uids)->pluck('projects.id', 'activities.uid')->all();
        foreach ($uids as $position => $uid) {
            if (! isset($projects[$uid])) {
                throw new InvalidOperation($position, 'activity', 'does not exist (any more)');
            }
        }
        $connected = Connected::with(array_values(array_unique($projects)));
        $recorded = Recording::of($connected->schedule, $reports, BaselineStore::starts($uids));
        $planning = new Planning($this->reach->user);
        $outcome = $request->boolean('dryRun')
            ? $planning->dryRun($recorded->operations, $connected->loaded->revisions)
            : $planning->commit($recorded->operations, $connected->loaded->revisions, 'progress', (string) $request->string('reason'));

        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->string('board')) + [
            'assumptions' => array_map(static fn (Assumption $a): array => ['activity' => $a->activity, 'field' => $a->field, 'moment' => $a->moment, 'because' => $a->because], $recorded->assumptions),
        ]);
    }

    /** Moves the status date, and unfinished work behind it. */
    public function statusDate(Request $request, string $project): JsonResponse
    {
        /** @var array{statusDate: string} $input */
        $input = $request->validate(['statusDate' => 'required|string', 'dryRun' => 'boolean']);
        try {
            $status = Instant::parse($input['statusDate']);
        } catch (InvalidInstant $e) {
            throw new InvalidField('statusDate', $e->getMessage());
        }
        $id = $this->reach->limit(DB::table('projects'))->where('uid', $project)->value('id');
        abort_if(! is_int($id), 404);
        $connected = Connected::with([$id]);
        $operations = StatusMove::to($connected->schedule, $project, $status);
        $planning = new Planning($this->reach->user);
        $outcome = $request->boolean('dryRun') ? $planning->dryRun($operations, $connected->loaded->revisions)
            : $planning->commit($operations, $connected->loaded->revisions, 'progress', 'status date '.Instant::format($status));

        return new JsonResponse(ChangeAnswer::of($outcome, $this->reach, (string) $request->string('board')) + ['operations' => count($outcome->operations)]);
    }
}

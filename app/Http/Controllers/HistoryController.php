<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\History\ChangeSetReach;
use App\History\Deleted;
use App\History\History;
use App\History\Since;
use App\History\Steps;
use App\History\Visits;
use App\Models\ChangeSet;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** What happened: to a project or an object in it, since a moment, and the user's own way back. */
final class HistoryController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(Request $request, History $history): JsonResponse
    {
        $project = (string) $request->query('project');
        abort_if(! isset($this->reach->projects()[$project]), 404);
        $object = $request->query('object');
        $before = $request->query('before');
        if ($before !== null && (! is_string($before) || preg_match('/^\d{4}(-\d\d){2} (\d\d:){2}\d\d\.\d{6}$/D', $before) !== 1)) {
            throw ValidationException::withMessages(['before' => 'Must be what `next` said on the page before.']);
        }

        return new JsonResponse($history->of($project, is_string($object) && $object !== $project ? $object : null,
            $before));
    }

    public function steps(Request $request): JsonResponse
    {
        $steps = Steps::of($this->reach->user, $request->query('projects') === null ? null
            : array_map(strval(...), array_keys($this->projects($request))));
        $hidden = (new ChangeSetReach($this->reach))->hiddenNow(array_merge(...array_column([...$steps['undo'], ...$steps['redo']],
            'changeSets')));
        foreach ($steps as $way => $list) {
            foreach ($list as $i => $step) {
                if (array_intersect_key(array_flip($step['changeSets']), $hidden) !== []) {
                    $steps[$way][$i]['headline'] = '';
                }
            }
        }

        return new JsonResponse($steps);
    }

    public function deleted(Deleted $deleted): JsonResponse
    {
        return new JsonResponse(['deleted' => $deleted->lately()]);
    }

    /** Since a moment, a change set (which counts too), or the user's last visit. */
    public function since(Request $request): JsonResponse
    {
        $projects = $this->projects($request);
        $since = (string) $request->query('since');
        if ($since !== 'visit') {
            return new JsonResponse(Since::of(array_fill_keys(array_map(strval(...), array_keys($projects)), $this->from($since))));
        }
        $visits = Visits::before($this->reach->user);

        return new JsonResponse(Since::of(array_map(static fn (int $id): string => $visits[$id] ?? now()->toDateTimeString(), $projects)));
    }

    /** @return array<string, int> uid => id of the projects named by their keys that the user sees */
    private function projects(Request $request): array
    {
        $keys = array_values(array_filter(explode(',', (string) $request->query('projects'))));

        return array_intersect($this->reach->projects(), $this->reach->projectsByKey($keys));
    }

    /** @return string moment of the last change set that does not count, to the microsecond */
    private function from(string $since): string
    {
        if (preg_match(ChangeSet::UID, $since) === 1) {
            $changeSet = ChangeSet::query()->where('uid', $since)->first([...ChangeSetReach::LISTED, 'applied_at']);
            if ($changeSet !== null) {
                (new ChangeSetReach($this->reach))->seen($changeSet);

                // it counts itself
                return Carbon::parse($changeSet->applied_at ?? $changeSet->created_at)->subMicrosecond()->format('Y-m-d H:i:s.u');
            }
        }
        try {
            return Carbon::parse(Instant::format(Instant::parse($since)))->toDateTimeString();
        } catch (InvalidInstant) {
            throw ValidationException::withMessages(
                ['since' => 'Must be a moment (2026-11-26T08:00), the uid of a change set or `visit`.']);
        }
    }
}

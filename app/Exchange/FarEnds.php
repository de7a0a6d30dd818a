<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Database\Rows;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Time\Instant;

/**
 * The far ends of handovers whose projects are not in a file: activities that are here already, or else activities of an
 * outside project, with the dates that the file gives them.
 */
final class FarEnds
{
    /** @var array<string, string> uid in the file => uid here; what is missing was left out */
    public array $uids = [];

    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<string> */
    public array $notes = [];

    /** @var array<string, true> uids in the file, of activities that are here already */
    private array $here = [];

    /** @var array<string, int> uids in the file that other activities have here */
    private array $taken = [];

    /**
     * @param  string  $branch  uid of the one that outside projects are put on
     * @param  string  $source  where the file comes from
     * @param  list<string>  $keys  of the projects that the file makes
     * @param  string  $calendar  uid here, of outside projects
     * @param  WorkAxis|null  $axis  the same calendar
     * @param  bool  $updates  what the file knows later of activities that are kept outside counts
     */
    public function __construct(private readonly Reach $reach, private readonly string $branch, private readonly string $source,
        private array $keys, private readonly string $calendar, private readonly ?WorkAxis $axis, private readonly bool $updates = false)
    {
    }

    public function find(Plan $plan): void
    {
        $missing = [];
        $known = $this->known($plan->stubs);
        foreach ($plan->stubs as $uid => $stub) {
            [$key, $code] = [...explode('/', $stub->code, 2), ''];
            if (isset($known[$stub->code])) {
                $this->uids[$uid] = $known[$stub->code]->uid;
                $this->here[$uid] = true;
                $this->updates && $this->promised($stub, $known[$stub->code]);
            } elseif ($code !== '' && $key !== 'ELSEWHERE' && preg_match('/^[A-Z0-9][A-Z0-9-]{0,19}$/D', $key) === 1) {
                $missing[$key][$code] = $stub;
            }
        }
        $uids = array_map(static fn (Stub $s): string => $s->uid, array_merge([], ...array_map(array_values(...), array_values($missing))));
        foreach (array_chunk($uids, Rows::CHUNK) as $chunk) {
            /** @var array<string, int> $taken */
            $taken = DB::table(Table::of(EntityKind::Activity)->name())->whereIn('uid', $chunk)->pluck('id', 'uid')->all();
            $this->taken += $taken;
        }
        foreach ($missing as $key => $stubs) {
            $this->outside((string) $key, $stubs);
        }
    }

    /**
     * @param  array<array-key, Stub>  $stubs
     * @return array<string, object{uid: string, branch_id: int, kept: string, start: int|null, finish: int|null, source: string|null,
     *     as_of: int|null}> project key/code => those that are here and within reach
     */
    private function known(array $stubs): array
    {
        $known = [];
        foreach (array_chunk($stubs, Rows::CHUNK) as $chunk) {
            $names = array_map(static fn (Stub $s): array => [...explode('/', $s->code, 2), ''], $chunk);
            $rows = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
                ->leftJoin('outside_dates as o', 'o.activity_id', '=', 'activities.id')
                ->whereIn('projects.key', array_column($names, 0))->whereIn('activities.code', array_column($names, 1))
                ->get(['projects.key', 'activities.code', 'activities.uid', 'projects.branch_id', 'projects.kept', 'o.start', 'o.finish',
                    'o.source', 'o.as_of']);
            foreach ($rows as $row) {
                /** @var object{key: string, code: string, uid: string, branch_id: int, kept: string, start: int|null, finish: int|null,
                 *     source: string|null, as_of: int|null} $row */
                $known["{$row->key}/{$row->code}"] = $row;
            }
        }

        return $known;
    }

    /**
     * Dates of an activity that is kept outside, where the file knows later ones.
     *
     * @param  object{uid: string, branch_id: int, kept: string, start: int|null, finish: int|null, source: string|null,
     *     as_of: int|null}  $now
     */
    private function promised(Stub $stub, object $now): void
    {
        if ($now->kept !== Kept::Outside->value || $now->start === null || ! $this->reach->may(Role::Planner, $now->branch_id)
            || ($stub->asOf ?? Instant::MIN) < ($now->as_of ?? Instant::MIN)
            || ($stub->start === $now->start && $stub->finish === $now->finish)) {
            return;
        }
        $this->operations[] = Operation::update(EntityKind::Activity, $now->uid, ['outsideStart' => Instant::format($stub->start),
            'outsideFinish' => Instant::format($stub->finish),
            'source' => mb_substr($stub->source === '' ? $this->source : $stub->source, 0, 190),
            'asOf' => Instant::formatOrNull($stub->asOf)], ['outsideStart' => Instant::format($now->start),
                'outsideFinish' => Instant::formatOrNull($now->finish), 'source' => $now->source,
                'asOf' => Instant::formatOrNull($now->as_of)]);
        $this->notes[] = "{$stub->code} is promised for ".Instant::said($stub->start).' to '.Instant::said($stub->finish)
            .' now, before '.Instant::said($now->start).' to '.Instant::said($now->finish ?? $now->start).'.';
    }

    /** Is this far end an activity that is here already? */
    public function isHere(string $uid): bool
    {
        return isset($this->here[$uid]);
    }

    /** @param  array<array-key, Stub>  $stubs  by code */
    private function outside(string $key, array $stubs): void
    {
        $project = $this->reach->limit(DB::table('projects'))->where('key', $key)->first(['uid', 'kept']);
        /** @var object{uid: string, kept: string}|null $project */
        if ($project !== null ? $project->kept !== Kept::Outside->value : $this->updates && ProjectKeys::isTaken($key)) {
            return; // of a project that is kept here the file tells nothing new; one that is out of reach is not made once more
        }
        $uid = $project->uid ?? (string) Str::ulid();
        if ($project === null) {
            $free = ProjectKeys::free($key, $this->keys);
            $this->keys[] = $free;
            $starts = array_map(static fn (Stub $s): int => $s->start, array_values($stubs));
            $this->operations[] = Operation::create(EntityKind::Project, $uid, ['key' => $free, 'name' => $key, 'branch' => $this->branch,
                'calendar' => $this->calendar, 'start' => Instant::format($starts === [] ? 0 : min($starts)),
                'kept' => Kept::Outside->value]);
            $count = count($stubs) === 1 ? '1 activity' : count($stubs).' activities';
            $this->notes[] = "{$key} is not here: it is kept as an outside project".($free === $key ? ''
                : " {$free}")." with {$count}, dated by the file.";
        }
        $position = 0.0;
        foreach ($stubs as $code => $stub) {
            $duration = $stub->start === $stub->finish
                || $this->axis === null ? 0 : max(1, $this->axis->between($stub->start, $stub->finish));
            $here = isset($this->taken[$stub->uid]) ? (string) Str::ulid() : $stub->uid;
            $this->uids[$stub->uid] = $here;
            $this->operations[] = Operation::create(EntityKind::Activity, $here, EntityKind::Activity->brief([
                'project' => $uid, 'wbs' => null, 'position' => ++$position, 'code' => (string) $code, 'name' => $stub->name,
                'kind' => $duration === 0 ? 'finish-milestone' : 'task', 'duration' => $duration,
                'outsideStart' => Instant::format($stub->start), 'outsideFinish' => Instant::format($stub->finish),
                'source' => mb_substr($stub->source === '' ? $this->source : $stub->source, 0, 190),
                'asOf' => Instant::formatOrNull($stub->asOf)]));
        }
    }
}

<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;
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

    /**
     * @param  string  $branch  uid of the one that outside projects are put on
     * @param  string  $source  where the file comes from
     * @param  list<string>  $keys  of the projects that the file makes
     * @param  string  $calendar  uid here, of outside projects
     * @param  WorkAxis|null  $axis  the same calendar
     */
    public function __construct(private readonly Reach $reach, private readonly string $branch, private readonly string $source,
        private array $keys, private readonly string $calendar, private readonly ?WorkAxis $axis)
    {
    }

    public function find(Plan $plan): void
    {
        $missing = [];
        foreach ($plan->stubs as $uid => $stub) {
            [$key, $code] = [...explode('/', $stub->code, 2), ''];
            $found = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
                ->where('projects.key', $key)->where('activities.code', $code)->value('activities.uid');
            if (is_string($found)) {
                $this->uids[$uid] = $found;
                $this->here[$uid] = true;
            } elseif ($code !== '' && $key !== 'ELSEWHERE' && preg_match('/^[A-Z0-9][A-Z0-9-]{0,19}$/D', $key) === 1) {
                $missing[$key][$code] = $stub;
            }
        }
        foreach ($missing as $key => $stubs) {
            $this->outside((string) $key, $stubs);
        }
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
        if ($project !== null && $project->kept === Kept::Here->value) {
            return; // of a project that is kept here the file tells nothing new
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
            $here = DB::table(Table::of(EntityKind::Activity)->name())->where('uid', $stub->uid)->exists() ? (string) Str::ulid()
                : $stub->uid;
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

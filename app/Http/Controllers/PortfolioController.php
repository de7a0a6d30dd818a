<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Exchange\ProjectKeys;
use App\Planning\Enterprise;
use App\Planning\PlanStore;
use App\Portfolio\Bands;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Plan\Role;
use Reihe\Core\Schedule\RolledUp;
use Symfony\Component\HttpFoundation\Response;

/** Everything the portfolio shows: hierarchy, projects with their roll-up, code sets, calendars. */
final class PortfolioController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    /** A key for a project of this name that nobody has yet. */
    public function key(Request $request): JsonResponse
    {
        /** @var array{name: string} $input */
        $input = $request->validate(['name' => 'required|string|max:255']);

        return new JsonResponse(['key' => ProjectKeys::propose($input['name'])]);
    }

    /** Asked for every few seconds while a page is visible; what the asker knows already is not made again (304). */
    public function __invoke(Request $request): Response
    {
        $stamp = $this->stamp();
        $known = (new Response)->setEtag($stamp);
        if ($known->isNotModified($request)) {
            return $known;
        }
        $plan = PlanStore::load([])[0]; // what the enterprise has
        $byOrder = static fn (CodeSet|CodeEntry $a, CodeSet|CodeEntry $b): int => [$a->position, $a->uid] <=> [$b->position, $b->uid];
        $sets = array_values(array_filter($plan->codeSets, static fn (CodeSet $s): bool => $s->scope === CodeScope::Project));
        $entries = array_values($plan->entries);
        usort($sets, $byOrder);
        usort($entries, $byOrder);
        $branches = $this->branches();
        $rows = $this->rows();
        $only = [];
        foreach (array_filter(explode(',', (string) $request->string('only'))) as $pair) {
            [$set, $value] = [...explode(':', $pair, 2), ''];
            $only[$set] = $value;
        }

        return (new JsonResponse([
            'branches' => $branches,
            'projects' => $this->projects($rows),
            'bands' => (new Bands($branches, $this->parts($rows), $sets, $entries))->by((string) $request->string('group'), $only),
            'codeSets' => array_map(static fn (CodeSet $s): array => [
                'uid' => $s->uid, 'key' => $s->key, 'name' => $s->name,
                'entries' => array_values(array_map(static fn (CodeEntry $e): array => ['uid' => $e->uid, 'parent' => $e->parent,
                    'key' => $e->key, 'name' => $e->name],
                    array_filter($entries, static fn (CodeEntry $e): bool => $e->codeSet === $s->uid))),
            ], $sets),
            'calendars' => array_values(array_map(static fn (Calendar $c): array => ['uid' => $c->uid, 'key' => $c->key,
                'name' => $c->name], $plan->calendars)),
        ]))->setEtag($stamp);
    }

    /** Differs whenever anything that the portfolio shows to this user differs. */
    private function stamp(): string
    {
        $seen = [
            $this->reach->limit(DB::table('projects'))->orderBy('projects.id')
                ->get(['projects.id', 'projects.revision', 'projects.branch_id'])->all(),
            $this->branches(),
            Enterprise::epoch(), Enterprise::revision(),
        ];

        return hash('xxh128', json_encode($seen, JSON_THROW_ON_ERROR));
    }

    /** @return list<array<string, mixed>> */
    private function branches(): array
    {
        $uids = $this->reach->branchUids();

        return array_values(DB::table('branches')->whereIn('id', $this->reach->branches())->orderBy('position')->orderBy('id')->get()
            ->map(fn (object $b): array => [
                'uid' => $b->uid, 'parent' => $uids[$b->parent_id] ?? null, 'name' => $b->name,
                'role' => $this->reach->roleOn($b->id)?->value,
                'mayPlan' => $this->reach->may(Role::Planner, $b->id),
            ])->all());
    }

    /** @return list<\stdClass> projects with their results and `codes`: uid of the coding, of set and entry */
    private function rows(): array
    {
        $codes = [];
        foreach (DB::table('codings as c')->join('code_entries as e', 'e.id', '=', 'c.entry_id')
            ->join('code_sets as s', 's.id', '=', 'e.code_set_id')->whereNull('c.activity_id')
            ->get(['c.project_id', 'c.uid', 's.uid as set', 'e.uid as entry']) as $c) {
            /** @var object{project_id: int, uid: string, set: string, entry: string} $c */
            $codes[$c->project_id][] = ['uid' => $c->uid, 'set' => $c->set, 'entry' => $c->entry];
        }

        return $this->reach->limit(DB::table('projects'))
            ->join('calendars', 'calendars.id', '=', 'projects.calendar_id')
            ->leftJoin('project_dates as d', 'd.project_id', '=', 'projects.id')
            ->orderBy('projects.key')
            ->get(['projects.*', 'calendars.uid as calendar_uid', 'd.start as first', 'd.finish', 'd.duration', 'd.total_float',
                'd.critical', 'd.planned', 'd.done', 'd.finished', 'd.margin', 'd.work', 'd.cost'])
            ->each(static function (\stdClass $p) use ($codes): void {
                $p->codes = $codes[$p->id] ?? [];
            })->all();
    }

    /**
     * Floats and margins are brought to days of one length, so that those of projects on other calendars compare.
     *
     * @param  list<\stdClass>  $rows
     * @return list<array{uid: string, branch: string, codes: array<string, string>, part: RolledUp}>
     */
    private function parts(array $rows): array
    {
        $days = $this->dayLengths();

        $uids = $this->reach->branchUids();

        return array_map(static function (\stdClass $p) use ($days, $uids): array {
            $scaled = static fn (?int $minutes): ?int => $minutes === null ? null
                : (int) round($minutes * Calendar::MINUTES_PER_DAY / $days[$p->calendar_uid]);
            $part = new RolledUp;
            [$part->start, $part->finish, $part->totalFloat, $part->critical, $part->planned, $part->done] = [$p->first, $p->finish,
                $scaled($p->total_float), (bool) $p->critical, $p->planned ?? 0, $p->done ?? 0];
            [$part->finished, $part->margin, $part->work, $part->cost] = [(bool) $p->finished, $scaled($p->margin), $p->work ?? 0,
                $p->cost ?? 0];

            return ['uid' => $p->uid, 'branch' => $uids[$p->branch_id], 'codes' => array_column($p->codes, 'entry', 'set'),
                'part' => $part];
        }, $rows);
    }

    /**
     * @param  list<\stdClass>  $rows
     * @return list<array<string, mixed>>
     */
    private function projects(array $rows): array
    {
        $counts = DB::table('activities')->groupBy('project_id')->selectRaw('project_id, count(*) as n')->pluck('n', 'project_id');
        $days = $this->dayLengths();
        $uids = $this->reach->branchUids();

        return array_map(fn (object $p): array => [
            'uid' => $p->uid, 'key' => $p->key, 'name' => $p->name, 'colour' => $p->colour, 'branch' => $uids[$p->branch_id],
            'lead' => $p->lead, 'kept' => $p->kept, 'calendar' => $p->calendar_uid,
            'minutesPerDay' => $days[$p->calendar_uid], 'plannedStart' => $p->start, 'statusDate' => $p->status_date,
            'deadline' => $p->deadline,
            'start' => $p->first, 'finish' => $p->finish, 'duration' => $p->duration ?? 0, 'totalFloat' => $p->total_float,
            'margin' => $p->margin, 'critical' => (bool) $p->critical,
            'progress' => $p->planned > 0 ? round($p->done / $p->planned / Measure::ALL, 4) : ($p->finished ? 1 : 0),
            'finished' => (bool) $p->finished, 'work' => $p->work ?? 0, 'cost' => $p->cost ?? 0,
            'activities' => $counts[$p->id] ?? 0, 'codes' => $p->codes, 'revision' => $p->revision,
            'role' => $this->reach->roleOn($p->branch_id)?->value, 'mayPlan' => $this->reach->may(Role::Planner, $p->branch_id),
        ], $rows);
    }

    /** @return array<string, int> calendar uid => minutes per day */
    private function dayLengths(): array
    {
        $calendars = PlanStore::calendars();

        return array_map(static fn (Calendar $c): int => $c->dayLength($calendars), $calendars);
    }
}

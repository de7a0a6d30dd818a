<?php

declare(strict_types=1);

namespace App\History;

use App\Models\ChangeSet;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Time\Instant;

/**
 * What happened to a project, or to one object in it, the latest first: who, when, which fields with before and after, and which
 * change sets moved its dates without touching it. Only what the user sees is told.
 */
final class History
{
    private const PAGE = 25;

    /** moves that are looked through for one page */
    private const LOOKED = 400;

    /** operations of a change set that are told one by one in the history of a project */
    private const TOLD = 8;

    public function __construct(private readonly ChangeSetReach $sets, private readonly Said $said)
    {
    }

    /**
     * @param  string  $project  uid of a project that the user sees
     * @param  string|null  $object  uid of an object in it; null for the whole project
     * @param  string|null  $before  where the page before ended
     * @return array{entries: list<array<string, mixed>>, next: string|null}
     */
    public function of(string $project, ?string $object, ?string $before): array
    {
        [$moved, $floor] = $this->moves($project, $object, $before);
        $touched = $object === null
            ? DB::table('change_set_projects')->where('project_uid', $project)->select('change_set_id')
            : DB::table('plan_changes')->where('uid', $object)->whereIn('project_uid', $this->sets->visible())->select('change_set_id');
        $query = ChangeSet::query()->with('author')->whereIn('state', ['applied', 'undone'])->where(static fn ($q) => $q
            ->whereIn('id', $touched)->orWhereIn('id', array_keys($moved))
            // links and what stands on an activity name it, also those that are gone
            ->when($object !== null, static fn ($q) => $q->orWhere(static fn ($q) => $q->whereIn('id', DB::table('change_set_projects')
                ->where('project_uid', $project)->select('change_set_id'))->whereRaw('LOCATE(?, operations) > 0', ['"'.$object.'"']))));
        $page = $query->when($before !== null, static fn ($q) => $q->where('applied_at', '<', $before))
            ->when($floor !== null, static fn ($q) => $q->where('applied_at', '>=', $floor))
            ->latest('applied_at')->latest('id')->limit(self::PAGE + 1)->get([...ChangeSetReach::LISTED, 'applied_at']);
        $more = $page->count() > self::PAGE;
        $page = $page->take(self::PAGE);
        $hidden = $this->sets->touchingHidden($page->modelKeys());
        $entries = [];
        foreach ($page as $changeSet) {
            $told = $this->told($changeSet->id, $project, $object);
            if ($object !== null && $told['items'] === [] && ! isset($moved[$changeSet->id])) {
                continue; // what it did to the object is out of reach
            }
            $entries[] = ['created' => Carbon::parse($changeSet->applied_at ?? $changeSet->created_at)->toIso8601String()]
                + ChangeSetReach::listed($changeSet, isset($hidden[$changeSet->id]))
                + ['mayUndo' => $changeSet->state === 'applied' && $changeSet->source !== 'demo'
                    && $this->sets->mayDecide($changeSet)]
                + $told
                + ['moved' => isset($moved[$changeSet->id]) ? self::moved($moved[$changeSet->id], $object) : null];
        }

        return ['entries' => $entries, 'next' => $more ? $page->last()?->applied_at : $floor];
    }

    /**
     * @return array{array<int, array<string, array{int, int, int, int}>>, string|null} change set id => activity uid => move, of the object
     *     or all; and the moment down to which was looked, null where that was everything
     */
    private function moves(string $project, ?string $object, ?string $before): array
    {
        $found = [];
        $looked = 0;
        /** @var list<string> $projects those that the object was in go along */
        $projects = $object === null ? [$project] : DB::table('plan_changes')->where('uid', $object)
            ->whereIn('project_uid', $this->sets->visible())->distinct()->pluck('project_uid')->push($project)->unique()->values()->all();
        $from = $before === null ? null : DB::table('date_moves as m')->join('change_sets as s', 's.id', '=', 'm.change_set_id')
            ->whereIn('m.project_uid', $projects)->where('s.applied_at', '>=', $before)->min('m.id');
        foreach (DateMoves::in($projects, before: is_int($from) ? $from : null) as [$changeSet, $moves]) {
            if ($object === null || isset($moves[$object])) {
                $found[$changeSet] = $object === null ? $moves : [$object => $moves[$object]];
            }
            if (count($found) > self::PAGE || ++$looked === self::LOOKED) {
                $at = DB::table('change_sets')->where('id', $changeSet)->value('applied_at');

                return [$found, is_string($at) ? $at : null];
            }
        }

        return [$found, null];
    }

    /**
     * @param  array<string, array{int, int, int, int}>  $moves
     * @return array<string, mixed>
     */
    private static function moved(array $moves, ?string $object): array
    {
        if ($object === null) {
            return ['activities' => count($moves)];
        }
        [$start, $startAfter, $finish, $finishAfter] = $moves[$object];

        return ['activities' => 1, 'startBefore' => Instant::format($start), 'startAfter' => Instant::format($startAfter),
            'finishBefore' => Instant::format($finish), 'finishAfter' => Instant::format($finishAfter)];
    }

    /**
     * Its own operations are taken out of the change set where it lies: it may have hundreds of thousands about others.
     *
     * @return array{items: list<array<string, mixed>>, more: int}
     */
    private function told(int $changeSet, string $project, ?string $object): array
    {
        $projects = $object === null ? [$project] : $this->sets->visible();
        $own = 'SELECT DISTINCT kind, uid FROM plan_changes WHERE change_set_id = ? AND project_uid IN ('
            .implode(', ', array_fill(0, count($projects), '?')).')';
        /** @var list<object{operation: string, of: int}> $rows */
        $rows = DB::select("SELECT o.operation, COUNT(*) OVER () AS of FROM change_sets s
            JOIN JSON_TABLE(s.operations, '$[*]' COLUMNS (n FOR ORDINALITY, kind VARCHAR(20) COLLATE utf8mb4_unicode_ci PATH '$.kind',
                uid VARCHAR(64) COLLATE ascii_bin PATH '$.uid', operation JSON PATH '$')) o
            JOIN ({$own}) c ON c.kind = o.kind AND c.uid = o.uid
            WHERE s.id = ?".($object === null ? '' : ' AND LOCATE(?, o.operation) > 0').' ORDER BY o.n'
            .($object === null ? ' LIMIT '.self::TOLD : ''),
            [$changeSet, ...$projects, $changeSet, ...($object === null ? [] : ['"'.$object.'"'])]);
        $shown = [];
        foreach ($rows as $row) {
            /** @var array<string, mixed> $operation */
            $operation = json_decode($row->operation, true, 512, JSON_THROW_ON_ERROR);
            $shown[] = Operation::fromArray($operation);
        }

        return $object === null ? ['items' => $this->said->of($shown), 'more' => ($rows[0]->of ?? 0) - count($rows)]
            : ['items' => $this->said->of(array_values(array_filter($shown,
                static fn (Operation $o): bool => self::concerns($o, $object)))), 'more' => 0];
    }

    private static function concerns(Operation $o, string $object): bool
    {
        return $o->uid === $object || in_array($object, [...array_values($o->before ?? []), ...array_values($o->after ?? [])], true);
    }
}

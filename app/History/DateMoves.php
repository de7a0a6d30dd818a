<?php

declare(strict_types=1);

namespace App\History;

use App\Planning\Committed;
use App\Planning\Follower;
use Illuminate\Support\Facades\DB;

/**
 * Which computed dates each change set moved, kept in full: one compressed row for each change set and project. Moves are
 * start before, start after, finish before, finish after (minutes since 2000-01-01).
 *
 * @phpstan-type Move array{int, int, int, int}
 */
final class DateMoves implements Follower
{
    /** rows that are read at once: at first, and when more are wanted */
    private const CHUNK = [50, 200];

    public function follow(Committed $change): void
    {
        foreach ($change->moves as $project => $of) {
            $packed = gzcompress(json_encode($of, JSON_THROW_ON_ERROR), 1);
            DB::table('date_moves')->insert(['change_set_id' => $change->id, 'project_uid' => $project, 'moves' => $packed]);
        }
    }

    /**
     * Moves in projects, the latest first: rows are numbered as change sets are carried out, one after the other in a project.
     *
     * @param  list<string>  $projects  uids
     * @param  string|null  $after  moment of the last change set that does not count, of a single project: there moments follow the numbers
     * @param  int|null  $before  number of the first row that does not count any more
     * @return iterable<int, array{int, array<string, Move>}> number of the row => change set id, activity uid => move
     */
    public static function in(array $projects, ?string $after = null, ?int $before = null): iterable
    {
        $size = self::CHUNK[0];
        do {
            $rows = DB::table('date_moves as m')->join('change_sets as s', 's.id', '=', 'm.change_set_id')
                ->whereIn('m.project_uid', $projects)
                ->when($before !== null, static fn ($q) => $q->where('m.id', '<', $before))
                ->orderByDesc('m.id')->limit($size)
                ->selectRaw('m.id, m.change_set_id, m.moves, s.applied_at > ? AS counts', [$after ?? '1000-01-01'])->get()->all();
            foreach ($rows as $row) {
                /** @var object{id: int, change_set_id: int, moves: string, counts: int} $row */
                if ($row->counts === 0) {
                    return; // so are all before it
                }
                /** @var array<string, Move> $moves */
                $moves = json_decode((string) gzuncompress($row->moves), true, 8, JSON_THROW_ON_ERROR);
                $before = $row->id;
                yield $row->id => [$row->change_set_id, $moves];
            }
            $isFull = count($rows) === $size;
            $size = self::CHUNK[1];
        } while ($isFull);
    }
}

<?php

declare(strict_types=1);

namespace App\Board;

use App\Access\Reach;
use App\Database\Rows;
use App\Planning\News;
use Illuminate\Support\Facades\DB;

/** A working set as it is stored: all of it, or what changed since. */
final class BoardQuery
{
    private readonly string $in;

    private readonly Projection $projection;

    /** @param  list<int>  $projects ids the user may see */
    public function __construct(Reach $reach, array $projects)
    {
        $this->in = Rows::in($projects);
        $this->projection = new Projection(new StoredRows($reach, $projects), $reach);
    }

    /** @return array<string, mixed> */
    public function all(): array
    {
        return $this->projection->all() + ['variances' => (new BaselineColumns($this->in))->all()];
    }

    /**
     * What changed for this working set since its projects had these revisions, by whomever. Projects without one are
     * given whole.
     *
     * @param  array<string, int>  $known  project uid => revision
     * @return array<string, mixed>
     */
    public function since(array $known): array
    {
        return DB::transaction(function () use ($known): array { // one view of the data, so that rows and revisions fit
            $since = [];
            foreach (Rows::all("SELECT uid, revision FROM projects WHERE id IN {$this->in}") as [$uid, $revision]) {
                /** @var string $uid */
                $before = $known[$uid] ?? -1;
                if ($before < $revision) {
                    $since[$uid] = $before;
                }
            }
            ['touched' => $touched, 'removed' => $removed] = News::rows($since);
            $uids = array_map(static fn (array $list): array => array_map(strval(...), array_keys($list)), $touched);

            return $this->projection->some(['wbs' => $uids['wbs'], 'activity' => $uids['activity'], 'link' => $uids['link']]) + [
                'variances' => (new BaselineColumns($this->in))->of(array_merge($uids['wbs'], $uids['activity'], $uids['project'])),
                'removed' => $removed,
            ];
        });
    }

    /**
     * Is there anything new? Asked often, so it looks at nothing but the revisions.
     *
     * @param  array<string, int>  $known
     */
    public function isCurrent(array $known): bool
    {
        foreach (Rows::all("SELECT uid, revision FROM projects WHERE id IN {$this->in}") as [$uid, $revision]) {
            /** @var string $uid */
            if (($known[$uid] ?? -1) < $revision) {
                return false;
            }
            unset($known[$uid]);
        }

        return $known === []; // else a project is gone
    }
}

<?php

declare(strict_types=1);

namespace App\Portfolio;

use App\Access\Reach;
use App\Board\ActivityColumns;
use App\Planning\PlanStore;
use App\Selection\EnterpriseColumns;
use App\Selection\SqlCondition;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Selection\InvalidSelection;
use Reihe\Core\Selection\View;
use Reihe\Core\Time\Instant;

/** The filter of a saved view, one's own or a shared one, for whatever else takes rows: feeds, exports. */
final readonly class SavedFilter
{
    /**
     * @param  string  $of  `p.id` of projects or `a.id` of activities
     * @param  string  $query  for their ids
     */
    private function __construct(private string $of, private string $query)
    {
    }

    /** @throws InvalidSelection when there is no such view, or it does not fit what there is any more */
    public static function named(string $uid, Reach $reach): self
    {
        $view = DB::table('views')->where('uid', $uid)->where(fn (Builder $q): Builder => $q->where('shared', true)->orWhere('user_id',
            $reach->user->id))
            ->first(['place', 'definition']);
        if ($view === null) {
            throw new InvalidSelection('', 'of this view does not exist');
        }
        [$plan, $ids] = PlanStore::load([]);
        $enterprise = new EnterpriseColumns($plan, $reach);
        $isBoard = $view->place === 'board';
        $columns = $isBoard ? new ActivityColumns($enterprise, $ids) : new ProjectColumns($enterprise, $ids);
        $definition = json_decode(is_string($view->definition) ? $view->definition : '{}', true);
        $filter = View::read(['filter' => is_array($definition) ? $definition['filter'] ?? null : null], $columns->columns())->filter;
        $where = $filter === null ? '1' : (new SqlCondition($columns, Instant::parse(now()->format('Y-m-d').'T12:00')))->of($filter);

        return $isBoard ? new self('a.id', 'SELECT a.id FROM '.ActivityColumns::FROM." WHERE {$where}")
            : new self('p.id', 'SELECT p.id FROM '.ProjectColumns::FROM." WHERE {$where}");
    }

    /** A condition on projects `p`: those that pass, or that have an activity that does. */
    public function onProjects(): string
    {
        return $this->of === 'p.id' ? "p.id IN ({$this->query})"
            : "p.id IN (SELECT project_id FROM activities WHERE id IN ({$this->query}))";
    }

    /** A condition on activities `a` of projects `p`. */
    public function onActivities(): string
    {
        return $this->of === 'a.id' ? "a.id IN ({$this->query})" : $this->onProjects();
    }
}

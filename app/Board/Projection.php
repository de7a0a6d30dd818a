<?php

declare(strict_types=1);

namespace App\Board;

use App\Access\Reach;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Role;

/** What a board shows: rows as columns, with what the user may do to each project. */
final readonly class Projection
{
    /** @param  bool  $editable  the rows are those that are stored */
    public function __construct(private BoardRows $rows, private Reach $reach, private bool $editable = true)
    {
    }

    /** @return array<string, mixed> */
    public function all(): array
    {
        return $this->of(null);
    }

    /**
     * Some rows, with everything that is given whole.
     *
     * @param  array{wbs: list<string>, activity: list<string>, link: list<string>}  $only  uids
     * @return array<string, mixed>
     */
    public function some(array $only): array
    {
        return $this->of($only);
    }

    /** @return list<array<string, mixed>> */
    public function projects(): array
    {
        return array_map(function (array $row): array {
            $project = array_combine(BoardTable::Projects->names(), $row);
            $branch = $this->reach->branch(is_string($project['branch']) ? $project['branch'] : '');
            $may = fn (Role $needed): bool => $this->editable && $project['kept'] !== Kept::Outside->value && ! $project['archived']
                && $branch !== null && $this->reach->may($needed, $branch);

            return ['archived' => (bool) $project['archived']] + $project + ['role' => $branch === null ? null
                : $this->reach->roleOn($branch)?->value, 'mayPlan' => $may(Role::Planner),
                'mayReport' => $project['kept'] === Kept::Here->value && $may(Role::Contributor)];
        }, $this->rows->projects());
    }

    /**
     * @param  array{wbs: list<string>, activity: list<string>, link: list<string>}|null  $only
     * @return array<string, mixed>
     */
    private function of(?array $only): array
    {
        return [
            'projects' => $this->projects(),
            'wbs' => BoardTable::Wbs->lists($this->rows->wbs($only['wbs'] ?? null)),
            'activities' => BoardTable::Activities->lists($this->rows->activities($only['activity'] ?? null)),
            'efforts' => BoardTable::Efforts->lists($this->rows->efforts($only['activity'] ?? null)),
            'outside' => BoardTable::Outside->lists($this->rows->outside()),
            'links' => BoardTable::Links->lists($this->rows->links($only['link'] ?? null)),
            'handovers' => BoardTable::Handovers->lists($this->rows->handovers()),
            'far' => BoardTable::Far->lists($this->rows->far()),
            'calendars' => array_values(array_map(self::calendar(...), $this->rows->calendars())),
        ];
    }

    /** @return array<string, mixed> */
    private static function calendar(Calendar $calendar): array
    {
        $fields = $calendar->fields();

        return ['uid' => $calendar->uid, 'week' => (object) (array) $fields['week']] + $fields;
    }
}

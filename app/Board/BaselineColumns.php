<?php

declare(strict_types=1);

namespace App\Board;

use App\Database\Rows;
use App\Planning\PlanStore;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Schedule\Schedule;

/**
 * Rows of a working set beside the current baselines of their projects, as columns: dates then, and the variances of now
 * in working minutes on the calendar of the row. Rows that came later have none.
 */
final class BaselineColumns
{
    private const NAMES = ['uid', 'start', 'finish', 'duration', 'startVariance', 'finishVariance', 'durationVariance'];

    /** @var array<string, WorkAxis> calendar uid => compiled */
    private array $axes = [];

    /** @var array<string, Calendar> */
    private array $calendars;

    /** @param  string  $in  ids of the projects, written for SQL */
    public function __construct(private readonly string $in)
    {
        $this->calendars = PlanStore::calendars();
    }

    /** @return array<string, list<mixed>> */
    public function all(): array
    {
        return $this->columns('');
    }

    /**
     * @param  list<string>  $uids
     * @return array<string, list<mixed>>
     */
    public function of(array $uids): array
    {
        return $uids === [] ? self::none() : $this->columns('AND r.uid IN '.Rows::quoted($uids));
    }

    /** @return array<string, list<mixed>> */
    public static function none(): array
    {
        return array_fill_keys(self::NAMES, []);
    }

    /**
     * Other dates of activities, as a baseline to compare with; variances in working minutes.
     *
     * @param  array<array-key, array{int, int}>  $dates  activity uid => start and finish as they are otherwise
     * @return array<string, list<mixed>>
     */
    public static function beside(array $dates, Schedule $schedule): array
    {
        $rows = [];
        foreach ($dates as $uid => [$start, $finish]) {
            $uid = (string) $uid;
            $is = $schedule->activity($uid);
            $axis = $schedule->axis($uid);
            $rows[] = [$uid, $start, $finish, $axis->between($start, $finish), $axis->between($start, $is->earlyStart),
                $axis->between($finish, $is->earlyFinish), $axis->between($is->earlyStart, $is->earlyFinish) - $axis->between($start,
                    $finish)];
        }

        return BoardTable::of(self::NAMES, $rows);
    }

    /** @return array<string, list<mixed>> */
    private function columns(string $only): array
    {
        $from = 'FROM baselines b JOIN baseline_rows r ON r.baseline_id = b.id JOIN projects p ON p.uid = b.project_uid
            JOIN calendars pc ON pc.id = p.calendar_id';
        $where = "WHERE b.current = 1 AND p.id IN {$this->in} {$only}";
        // duration now: as planned, but the span of started work and hammocks, as the baseline stores it
        /** @var list<array{string, int, int, int, string, int|null, int|null, int|null}> $rows */
        $rows = Rows::all("
            SELECT r.uid, r.start, r.finish, r.duration, COALESCE(c.uid, pc.uid), d.start, d.finish, IF(a.actual_start IS NULL
                AND a.kind <> 'hammock', a.duration, NULL)
            {$from} JOIN activities a ON r.kind = 'activity' AND a.uid = r.uid LEFT JOIN calendars c ON c.id = a.calendar_id
                JOIN activity_dates d ON d.activity_id = a.id {$where}
            UNION ALL SELECT r.uid, r.start, r.finish, r.duration, pc.uid, d.start, d.finish, NULL
            {$from} JOIN wbs_elements w ON r.kind = 'wbs' AND w.uid = r.uid JOIN wbs_dates d ON d.wbs_id = w.id {$where}
            UNION ALL SELECT r.uid, r.start, r.finish, r.duration, pc.uid, d.start, d.finish, NULL
            {$from} JOIN project_dates d ON d.project_id = p.id AND r.kind = 'project' {$where}");
        $columns = array_fill_keys(self::NAMES, []);
        foreach ($rows as [$uid, $start, $finish, $duration, $calendar, $startNow, $finishNow, $durationNow]) {
            if ($startNow === null || $finishNow === null) {
                continue;
            }
            $axis = $this->axes[$calendar] ??= new WorkAxis($this->calendars[$calendar], $this->calendars);
            $values = [$uid, $start, $finish, $duration, $axis->between($start, $startNow), $axis->between($finish, $finishNow),
                ($durationNow ?? $axis->between($startNow, $finishNow)) - $duration];
            foreach (self::NAMES as $i => $name) {
                $columns[$name][] = $values[$i];
            }
        }

        return $columns;
    }
}

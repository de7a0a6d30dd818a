<?php

declare(strict_types=1);

namespace App\Board;

use Reihe\Core\Calendar\Calendar;

/**
 * Rows of a working set in the order of {@see BoardTable}, wherever they come from: tables ({@see StoredRows}) or a plan in
 * memory ({@see PlanRows}). `$only` limits rows to some uids; null takes all.
 */
interface BoardRows
{
    /** @return list<list<mixed>> */
    public function projects(): array;

    /**
     * @param  list<string>|null  $only
     * @return list<list<mixed>>
     */
    public function wbs(?array $only = null): array;

    /**
     * @param  list<string>|null  $only
     * @return list<list<mixed>>
     */
    public function activities(?array $only = null): array;

    /**
     * @param  list<string>|null  $only  activities
     * @return list<list<mixed>>
     */
    public function efforts(?array $only = null): array;

    /** @return list<list<mixed>> */
    public function outside(): array;

    /**
     * @param  list<string>|null  $only
     * @return list<list<mixed>> the far end is null where the user may not look
     */
    public function links(?array $only = null): array;

    /** @return list<list<mixed>> */
    public function handovers(): array;

    /** @return list<list<mixed>> activities outside the working set at the other end of a handover that the user may see */
    public function far(): array;

    /** @return array<string, Calendar> */
    public function calendars(): array;
}

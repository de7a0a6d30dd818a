<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** Start = earliest, finish = latest, float = least, critical if any part is, progress weighted by planned duration. */
final class RolledUp
{
    public ?int $start = null;

    public ?int $finish = null;

    /** working minutes between start and finish on the project's calendar */
    public int $duration = 0;

    public ?int $totalFloat = null;

    public bool $critical = false;

    public int $planned = 0;

    public int $done = 0;

    /** all parts are finished; false while there are none */
    public bool $finished = false;

    public function add(int $start, int $finish, ?int $float, bool $critical, int $planned, int $done, bool $finished): void
    {
        $this->finished = $finished && ($this->finished || $this->start === null);
        $this->start = min($this->start ?? $start, $start);
        $this->finish = max($this->finish ?? $finish, $finish);
        $this->totalFloat = $float === null ? $this->totalFloat : min($this->totalFloat ?? $float, $float);
        $this->critical = $this->critical || $critical;
        $this->planned += $planned;
        $this->done += $done;
    }

    /** Share done, 0 … 1. */
    public function progress(): float
    {
        return $this->planned > 0 ? $this->done / $this->planned : ($this->finished ? 1.0 : 0.0);
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Time\Instant;

/** Dates moved by working time: as far from the new start, on one calendar, as they were from the old one. */
final readonly class DateShift
{
    public function __construct(private WorkAxis $axis, private int $from, private int $to)
    {
    }

    /** A moment at which something begins. */
    public function start(int $moment): int
    {
        return $this->from === $this->to ? $moment : $this->axis->startAt($this->index($moment));
    }

    /** A moment by which something is done. */
    public function finish(int $moment): int
    {
        return $this->from === $this->to ? $moment : $this->axis->finishAt($this->index($moment));
    }

    /**
     * A constraint or checklist in written form.
     *
     * @param  array<string, mixed>  $constraint
     * @return array<string, mixed>
     */
    public function constraint(array $constraint): array
    {
        $kind = ConstraintKind::from(is_string($constraint['kind']) ? $constraint['kind'] : '');
        $date = $constraint['date'] ?? null;

        return ['date' => ! is_string($date) ? null : Instant::format($kind->isOnStart() ? $this->start(Instant::parse($date))
            : $this->finish(Instant::parse($date)))] + $constraint;
    }

    private function index(int $moment): int
    {
        return $this->axis->workAt($this->to) + $this->axis->workAt($moment) - $this->axis->workAt($this->from);
    }
}

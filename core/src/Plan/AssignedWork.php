<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Sums of the assignments of one activity: minutes of work and cost in minor units; null where no assignment says anything. */
final readonly class AssignedWork
{
    public function __construct(public ?int $actual = null, public ?int $remaining = null, public ?int $cost = null)
    {
    }

    /**
     * Of all activities of a plan that have any.
     *
     * @return array<string, self> by activity
     */
    public static function of(Plan $plan): array
    {
        $sums = [];
        foreach ($plan->assignments as $a) {
            $sums[$a->activity] = ($sums[$a->activity] ?? new self)->with($a);
        }

        return $sums;
    }

    public static function on(Plan $plan, string $activity): self
    {
        $sum = new self;
        foreach ($plan->assignments as $a) {
            $sum = $a->activity === $activity ? $sum->with($a) : $sum;
        }

        return $sum;
    }

    /** Planned work in minutes: actual plus remaining. */
    public function total(): int
    {
        return (int) $this->actual + (int) $this->remaining;
    }

    public function isNothing(): bool
    {
        return $this->total() === 0 && $this->cost === null;
    }

    private function with(Assignment $a): self
    {
        $sum = static fn (?int $one, ?int $other): ?int => $one === null && $other === null ? null : (int) $one + (int) $other;

        return new self($sum($this->actual, $a->actualWork), $sum($this->remaining, $a->remainingWork), $sum($this->cost, $a->cost));
    }
}

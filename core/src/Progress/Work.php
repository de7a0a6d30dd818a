<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

/**
 * Work of one activity: `work = duration × intensity`, all in minutes. The intensity (units working at once) stays; what
 * was done and what remains decide the work, and with it the duration.
 */
final readonly class Work
{
    private function __construct(public float $intensity, public int $actual, public int $remaining)
    {
    }

    /** Nothing done yet. */
    public static function planned(int $duration, float $intensity): self
    {
        return new self($intensity, 0, (int) round($duration * $intensity));
    }

    /** As it stands; without any work one unit is taken to work all the time. */
    public static function of(int $duration, int $actual, int $remaining): self
    {
        $work = $actual + $remaining;

        return $work === 0 || $duration === 0 ? new self(1.0, 0, $duration) : new self($work / $duration, $actual, $remaining);
    }

    /** So much is done in all; what remains is the plan minus that, never below 0. */
    public function done(int $actual): self
    {
        return new self($this->intensity, $actual, max(0, $this->total() - $actual));
    }

    /** So much remains, whatever was planned. */
    public function remains(int $remaining): self
    {
        return new self($this->intensity, $this->actual, $remaining);
    }

    /** Together with the work of somebody else on the same activity. */
    public function and(self $other): self
    {
        return new self($this->intensity + $other->intensity, $this->actual + $other->actual, $this->remaining + $other->remaining);
    }

    public function total(): int
    {
        return $this->actual + $this->remaining;
    }

    /** Share done, 0 … 1. */
    public function share(): float
    {
        return $this->total() === 0 ? 0.0 : $this->actual / $this->total();
    }

    /** Minutes that all of it takes. */
    public function duration(): int
    {
        return (int) round($this->total() / $this->intensity);
    }

    /** Minutes that the rest takes. */
    public function remainingDuration(): int
    {
        return (int) round($this->remaining / $this->intensity);
    }
}

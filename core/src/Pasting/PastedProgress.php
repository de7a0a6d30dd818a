<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\PercentBy;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Time\Instant;

/**
 * Progress that one row of a table tells: actual dates, a share that is done, what remains. Nothing is made up: work that has begun needs
 * a day when it did, in its own column or that of the planned dates, and nothing lies after the status date of its project.
 */
final class PastedProgress
{
    /** @var array<string, int|float> meaning => minutes since 2000-01-01 or of work, or percent */
    private array $told = [];

    private readonly ?int $status;

    /**
     * @param  bool  $isFraction  shares are written like 0.5, not like 50 or 50 %
     * @param  WorkAxis|null  $axis  of the calendar that measures the row
     */
    public function __construct(private readonly Plan $plan, string $project, private readonly int $day, private readonly string $unit,
        private readonly bool $isFraction, private readonly ?WorkAxis $axis = null)
    {
        $this->status = $plan->projects[$project]->statusDate;
    }

    /**
     * Are shares written as fractions of one?
     *
     * @param  list<string>  $cells  of the column
     */
    public static function areFractions(array $cells): bool
    {
        $some = false;
        foreach ($cells as $text) {
            $plain = str_replace(',', '.', trim($text));
            if ($plain !== '' && (! is_numeric($plain) || (float) $plain > 1)) {
                return false;
            }
            $some = $some || ($plain !== '' && (float) $plain > 0);
        }

        return $some;
    }

    /**
     * @param  string|null  $unit  of plain numbers, where the column says it
     * @param  NumberFormat|null  $format  of the column
     */
    public function cell(Meaning $meaning, string $text, ?string $unit = null, ?NumberFormat $format = null): Cell
    {
        if ($meaning === Meaning::Progress) {
            $number = NumberFormat::number(rtrim(trim($text), '% '), $format);
            $percent = $number !== null ? (float) $number * ($this->isFraction ? 100 : 1) : -1.0;
            if ($percent < 0 || $percent > 100) {
                return new Cell($text, null, 'is no share from 0 to 100 %');
            }
            $this->told[$meaning->value] = $percent;

            return new Cell($text, self::percent($percent));
        }
        if ($meaning === Meaning::Remaining) {
            $span = TypedSpan::read($text, $this->day, $unit ?? $this->unit, $format);
            if ($span === null || $span->minutes < 0) {
                return new Cell($text, null, 'is no duration');
            }
            $this->told[$meaning->value] = $span->minutes;

            return new Cell($text, TypedSpan::shown($span->minutes, $this->day));
        }
        $date = TypedDate::read($text, $meaning === Meaning::ActualStart ? DayEdge::First : DayEdge::Last, $this->axis);
        if ($date === null) {
            return new Cell($text, null, 'is no date, or day and month may be the other way round');
        }
        $this->told[$meaning->value] = $date;

        return new Cell($text, Instant::format($date));
    }

    /**
     * Adds what the row tells to the fields of its activity.
     *
     * @param  array<string, mixed>  $fields
     * @param  int|null  $start  planned, as the row has it
     * @param  int|null  $finish  the same
     * @return string|null what is wrong with it; nothing is added then
     */
    public function into(array &$fields, ?Activity $existing, ?int $start, ?int $finish): ?string
    {
        $percent = $this->told[Meaning::Progress->value] ?? null;
        $remaining = $this->told[Meaning::Remaining->value] ?? null;
        $begin = $this->told[Meaning::ActualStart->value] ?? null;
        $end = $this->told[Meaning::ActualFinish->value] ?? null;
        if ($begin === null && $end === null && ($percent ?? 0.0) === 0.0) {
            return null; // what remains of work that has not begun is its duration
        }
        $kind = Kind::tryFrom(is_string($fields['kind'] ?? null) ? $fields['kind'] : '') ?? $existing->kind ?? Kind::Task;
        $isDone = $end !== null || $percent === 100.0;
        if ($kind === Kind::Hammock) {
            return 'is for work; a hammock has no progress of its own';
        }
        $end = $isDone ? $end ?? $existing->actualFinish ?? $finish : null;
        $begin ??= $existing->actualStart ?? $start ?? $end;
        if ($isDone && $end === null) {
            return 'is done, but no column says when it ended';
        }
        if ($begin === null) {
            return 'has begun, but no column says when';
        }
        if ($this->status === null) {
            return 'needs a status date of the project';
        }
        if (max($begin, $end) > $this->status) {
            return 'lies after the status date '.Instant::said($this->status);
        }
        if ($kind !== Kind::Task && ! $isDone) {
            return 'is a milestone, which is reached or not';
        }
        if ($end !== null && $end < $begin) {
            return 'ended before it began';
        }
        $progress = ['actualStart' => Instant::format((int) ($kind === Kind::Task ? $begin : $end)),
            'actualFinish' => Instant::formatOrNull($end === null ? null : (int) $end)];
        $by = $existing->measure->percentBy ?? PercentBy::Duration;
        if ($isDone) {
            $progress['remaining'] = null;
        } elseif ($remaining !== null) {
            $progress['remaining'] = (int) $remaining;
        }
        if (! $isDone && $percent !== null && ! $this->isTheSame($existing, $percent)) {
            if ($by === PercentBy::Work || ($existing->measure->checklist ?? []) !== []) {
                return 'follows from '.($by === PercentBy::Work ? 'work' : 'the checklist').' here';
            }
            if ($by === PercentBy::Physical) {
                $progress['physicalPercent'] = $percent;
            } else {
                $duration = is_int($fields['duration'] ?? null) ? $fields['duration'] : $existing->duration ?? $this->day;
                $progress += ['remaining' => max(1, (int) round($duration * (100 - $percent) / 100))];
            }
        }
        $fields = $progress + $fields;

        return null;
    }

    /** A share that was rounded when it was written is no change. */
    private function isTheSame(?Activity $existing, int|float $percent): bool
    {
        if ($existing === null || ! $existing->isStarted() || $existing->isFinished()) {
            return false;
        }
        $work = $existing->measure->percentBy === PercentBy::Work ? AssignedWork::on($this->plan, $existing->uid) : new AssignedWork;

        return abs($existing->percent($work) / 1000 - $percent) < 0.5;
    }

    public static function percent(float $percent): string
    {
        return rtrim(rtrim(number_format($percent, 1, '.', ''), '0'), '.').' %';
    }
}

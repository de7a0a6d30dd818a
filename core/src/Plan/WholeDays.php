<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/**
 * Dates without an hour, `2027-03-08`, mean the same wherever they are written: the first working minute of their day for a start, the
 * last for a finish, a deadline, an agreed date, a status date, on the calendar that measures the object. {@see Field::$edge} says which.
 */
final class WholeDays
{
    /** @var array<string, array<string, DayEdge>> kind => field => edge */
    private static array $edges = [];

    /** @return array<string, DayEdge> fields of a kind that are moments at an edge of their day */
    public static function edges(EntityKind $kind): array
    {
        return self::$edges[$kind->value] ??= array_filter(array_map(static fn (Field $f): ?DayEdge => $f->edge, $kind->fields()));
    }

    public static function isOne(string $value): bool
    {
        return strlen($value) === 10 && preg_match('/^\d{4}-\d\d-\d\d$/D', $value) === 1;
    }

    /**
     * Fields in written form with the hours that they mean.
     *
     * @param  array<string, mixed>  $fields
     * @param  callable(): (WorkAxis|null)  $axis  of the calendar that measures the object; asked for only where it is needed
     * @return array<string, mixed>
     */
    public static function timed(EntityKind $kind, array $fields, callable $axis): array
    {
        foreach (self::edges($kind) as $name => $edge) {
            $value = $fields[$name] ?? null;
            if (is_string($value) && self::isOne($value)) {
                $fields[$name] = self::moment($value, $edge, $axis());
            }
        }
        $constraints = $kind === EntityKind::Activity ? $fields['constraints'] ?? [] : [];
        $constraints = is_array($constraints) ? $constraints : [];
        foreach ($constraints as $n => $c) {
            $date = is_array($c) ? $c['date'] ?? null : null;
            if (is_array($c) && is_string($date) && self::isOne($date)) {
                $isFinish = is_string($c['kind'] ?? null) && str_starts_with($c['kind'], 'finish');
                $constraints[$n] = ['date' => self::moment($date, $isFinish ? DayEdge::Last : DayEdge::First, $axis())] + $c;
            }
        }

        return $constraints === [] ? $fields : ['constraints' => $constraints] + $fields;
    }

    /** A date with or without an hour, as a moment in written form; what is no date stays as it is. */
    public static function moment(string $text, DayEdge $edge, ?WorkAxis $axis): string
    {
        try {
            return self::isOne($text) ? Instant::format($edge->of(Instant::parse($text), $axis)) : $text;
        } catch (InvalidInstant) {
            return $text; // reading it says what is wrong
        }
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Sabre\VObject\Component\VCalendar;

/** Writes to-do components as iCalendar (RFC 5545) with the relations of RFC 9253. */
final class IcsWriter
{
    public const PRODUCT = '-//Reihe//Reihe//EN';

    /**
     * @param  string  $stamp  DTSTAMP in UTC, `20260327T080000Z`
     * @param  Zone|null  $zone  of the wall clock; UTC where it is not said
     */
    public static function write(Todos $todos, string $stamp, ?Zone $zone = null): string
    {
        return self::calendar($todos, $stamp, $zone)->serialize();
    }

    /** The same as jCal (RFC 7265). */
    public static function json(Todos $todos, string $stamp, ?Zone $zone = null): string
    {
        return json_encode(self::calendar($todos, $stamp, $zone)->jsonSerialize(), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE
            | JSON_UNESCAPED_SLASHES);
    }

    private static function calendar(Todos $todos, string $stamp, ?Zone $zone): VCalendar
    {
        $moments = new Moments($zone ?? new Zone('UTC'));
        $calendar = new VCalendar([], false);
        $calendar->add('VERSION', '2.0');
        $calendar->add('PRODID', self::PRODUCT);
        foreach ($todos->extras as $name => $values) {
            foreach ($values as $value) {
                $calendar->add($name, $value);
            }
        }
        foreach ($todos->items as $todo) {
            $calendar->add(self::component($calendar, $todo, $stamp, $moments));
        }

        return $calendar;
    }

    private static function component(VCalendar $calendar, Todo $todo, string $stamp, Moments $moments): \Sabre\VObject\Component
    {
        $component = $calendar->createComponent('VTODO', null, false);
        $component->add('UID', $todo->uid);
        $component->add('DTSTAMP', $stamp);
        foreach (['SUMMARY' => $todo->summary, 'STATUS' => (string) $todo->status] as $name => $value) {
            if ($value !== '') {
                $component->add($name, $value);
            }
        }
        foreach (['DTSTART' => $todo->start, 'DUE' => $todo->due] as $name => $moment) {
            if ($moment !== null) {
                $component->add($name, self::local($moment));
            }
        }
        if ($todo->percent !== null) {
            $component->add('PERCENT-COMPLETE', (string) $todo->percent);
        }
        if ($todo->completed !== null) {
            $component->add('COMPLETED', $moments->utc($todo->completed));
        }
        if ($todo->categories !== []) {
            $component->add('CATEGORIES', $todo->categories);
        }
        foreach ($todo->relations as $relation) {
            $component->add('RELATED-TO', $relation->uid, array_filter([
                'RELTYPE' => $relation->type,
                'GAP' => $relation->gap === 0 ? null : Duration::format($relation->gap),
                'X-REIHE-UID' => $relation->linkUid,
            ]) + array_combine(array_map(static fn (string $name): string => "X-REIHE-{$name}", array_keys($relation->extras)),
                $relation->extras));
        }
        foreach ($todo->extras as $name => $values) {
            foreach ($values as $value) {
                $component->add($name, $value);
            }
        }
        foreach ($todo->kept === [] ? [] : Components::ofLines(implode("\n", $todo->kept)) as $property) {
            $component->add(clone $property);
        }

        return $component;
    }

    /** Floating local time, `20260327T080000`. */
    public static function local(int $moment): string
    {
        return str_replace(['-', ':'], '', Instant::format($moment)).'00';
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Time\Instant;
use Sabre\VObject\Component\VCalendar;

/** Writes to-do components as iCalendar (RFC 5545) with the relations of RFC 9253. */
final class IcsWriter
{
    /** @param  string  $stamp DTSTAMP in UTC, `20260327T080000Z` */
    public static function write(Todos $todos, string $stamp): string
    {
        $calendar = new VCalendar([], false);
        $calendar->add('VERSION', '2.0');
        $calendar->add('PRODID', '-//Reihe//plan//EN');
        foreach ($todos->extras as $name => $values) {
            foreach ($values as $value) {
                $calendar->add($name, $value);
            }
        }
        foreach ($todos->items as $todo) {
            $calendar->add(self::component($calendar, $todo, $stamp));
        }

        return $calendar->serialize();
    }

    private static function component(VCalendar $calendar, Todo $todo, string $stamp): \Sabre\VObject\Component
    {
        $component = $calendar->createComponent('VTODO', null, false);
        $component->add('UID', $todo->uid);
        $component->add('DTSTAMP', $stamp);
        foreach (['SUMMARY' => $todo->summary, 'DESCRIPTION' => $todo->description,
            'STATUS' => (string) $todo->status] as $name => $value) {
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
            $component->add('COMPLETED', self::local($todo->completed).'Z');
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

        return $component;
    }

    /** Floating local time, `20260327T080000`. */
    public static function local(int $moment): string
    {
        return str_replace(['-', ':'], '', Instant::format($moment)).'00';
    }
}

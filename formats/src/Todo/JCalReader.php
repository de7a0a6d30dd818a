<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Reihe\Formats\Xml;
use Sabre\VObject\Component;
use Sabre\VObject\Component\VCalendar;
use Sabre\VObject\Property;
use Sabre\VObject\Property\FlatText;
use Sabre\VObject\Reader;

/** Reads jCal (RFC 7265): a calendar as JSON, or several in a list. */
final class JCalReader
{
    /** types of values of which a property may have several */
    private const SEVERAL = ['text', 'date', 'date-time', 'time', 'period', 'float'];

    /**
     * @param  Zone|null  $zone  of the wall clock; UTC where it is not said
     * @param  bool  $events  appointments are read too
     *
     * @throws FormatError
     */
    public static function read(string $json, ?Zone $zone = null, bool $events = false): Todos
    {
        VCalendar::$propertyMap['RRULE'] = VCalendar::$valueMap['RECUR'] = Rule::class;
        VCalendar::$valueMap['UID'] = FlatText::class;
        if (! mb_check_encoding($json, 'UTF-8')) {
            throw new FormatError('the file must be encoded in UTF-8', Xml::firstBadLine($json));
        }
        $data = json_decode($json, true, 64);
        if (! is_array($data)) {
            throw new FormatError('the file is not jCal: '.lcfirst(json_last_error_msg()), 1);
        }
        $todos = new Todos;
        $todos->text = $json;
        $gathered = new Gathered($todos, $zone ?? new Zone('UTC'), $events);
        foreach (($data[0] ?? null) === 'vcalendar' ? [$data] : $data as $calendar) {
            if (! is_array($calendar) || ($calendar[0] ?? null) !== 'vcalendar' || ! is_array($calendar[1] ?? null)
                || ! is_array($calendar[2] ?? null)) {
                throw new FormatError('the file is not jCal: a calendar is ["vcalendar", [properties], [components]]', 1);
            }
            $ours = array_values(array_filter($calendar[1], static fn (mixed $p): bool => is_array($p) && is_string($p[0] ?? null)
                && str_starts_with(strtoupper($p[0]), 'X-REIHE-')));
            foreach (Components::of(self::parsed([$ours, []])) as $property) {
                if ($property instanceof Property) {
                    $todos->extras[$property->name][] = Text::clean(Components::value($property));
                }
            }
            foreach ($calendar[2] as $component) {
                $name = is_array($component) && is_string($component[0] ?? null) ? strtoupper($component[0]) : '';
                if ($gathered->wants($name)) {
                    self::component($component, $gathered);
                }
            }
        }
        $gathered->finish();
        if ($todos->items === []) {
            throw new FormatError('the file holds no to-do components (vtodo)', 1);
        }

        return $todos;
    }

    private static function component(mixed $component, Gathered $gathered): void
    {
        $calendar = self::parsed([[], [$component]]);
        foreach ($calendar->getComponents() as $child) {
            try {
                $child instanceof Component ? $gathered->add($child, $calendar) : null;
            } catch (FormatError $e) {
                throw $e->fileLine === null ? new FormatError($e->why, 1) : $e;
            }
        }
    }

    /**
     * Properties with values such as their types have: the library takes the form for granted. Values that the writer did not know are
     * escaped as in iCalendar (RFC 7265, section 5), which it forgets.
     *
     * @param  list<mixed>  $properties
     * @return list<mixed>
     */
    private static function plain(array $properties): array
    {
        $plain = [];
        foreach ($properties as $property) {
            $type = is_array($property) && is_string($property[2] ?? null) ? strtolower($property[2]) : null;
            if (! is_array($property) || $type === null || $type === 'recur') {
                $plain[] = $property;

                continue;
            }
            $values = array_values(array_filter(array_map(self::scalars(...), array_slice(array_values($property), 3)),
                static fn (mixed $v): bool => $v !== null && $v !== []));
            if (! in_array($type, self::SEVERAL, true)) {
                $first = $values[0] ?? null;
                $values = $first === null ? [] : [is_array($first) ? $first[0] : $first];
            }
            if ($type === 'unknown' && is_string($values[0] ?? null)) {
                $values[0] = preg_replace_callback('/\\\\([,;nN\\\\])/', static fn (array $m): string => strtolower($m[1]) === 'n' ? "\n"
                    : $m[1], $values[0]);
            }
            $values === [] ?: $plain[] = [...array_slice(array_values($property), 0, 3), ...$values];
        }

        return $plain;
    }

    /** @return scalar|list<scalar>|null a value, or the parts of a structured one (RFC 7265, section 3.4.1.1) */
    private static function scalars(mixed $value): string|int|float|bool|array|null
    {
        return is_scalar($value) ? $value : (is_array($value) ? array_values(array_filter($value, is_scalar(...))) : null);
    }

    /** @param  array{list<mixed>, list<mixed>}  $parts  properties and components */
    private static function parsed(array $parts): VCalendar
    {
        try {
            $calendar = Reader::readJson(['vcalendar', self::plain($parts[0]), array_map(static fn (mixed $c): mixed => is_array($c)
                && is_array($c[1] ?? null) ? array_replace($c, [1 => self::plain(array_values($c[1]))]) : $c, $parts[1])]);
        } catch (\Throwable $e) { // the library has no exception of its own, and takes the form for granted
            throw new FormatError('the file is not jCal: '.Text::short($e->getMessage(), 120), 1);
        }

        return $calendar instanceof VCalendar ? $calendar : throw new FormatError('the file is not jCal', 1);
    }
}

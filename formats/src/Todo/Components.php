<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Sabre\VObject\Component;
use Sabre\VObject\Component\VCalendar;
use Sabre\VObject\Parameter;
use Sabre\VObject\Property;
use Sabre\VObject\Reader;

/** Components of a calendar library as to-dos, for iCalendar and jCal. */
final class Components
{
    /** @return array{Todo, string|null} the to-do, and what makes it recur (RRULE, RDATE and EXDATE as content lines) */
    public static function todo(Component $component, Todos $todos, Moments $moments): array
    {
        $uid = self::text($component, 'UID');
        if ($uid === '') {
            $uid = 'todo:'.count($todos->items);
            $todos->withoutUid++;
        }
        $todo = new Todo($uid, self::text($component, 'SUMMARY'));
        $todo->isEvent = $component->name === 'VEVENT';
        $recurs = '';
        foreach (self::of($component) as $property) {
            if (! $property instanceof Property) {
                $todos->alarms++;

                continue;
            }
            $name = $property->name;
            try {
                in_array($name, ['RRULE', 'RDATE', 'EXDATE'], true) ? $recurs .= $property->serialize()
                    : self::property($todo, $property, $moments);
            } catch (CoreException|FormatError $e) {
                $todos->refuse($name, $e->getMessage(), $uid);
            }
        }

        return [$todo, str_contains($recurs, 'RRULE') || str_contains($recurs, 'RDATE') ? $recurs : null];
    }

    /**
     * What a component holds; the library's own way takes the square of how many names there are.
     *
     * @return list<Component|Property>
     */
    public static function of(Component $component): array
    {
        /** @var array<string, list<Component|Property>> $groups */
        $groups = (fn (): array => $this->children)->call($component);

        return array_merge(...array_values($groups));
    }

    /** A content line, unfolded (RFC 5545, section 3.1). */
    public static function line(Property $property): string
    {
        return rtrim(str_replace("\r\n ", '', $property->serialize()), "\r\n");
    }

    /** The value as one text, also where JSON says several of something that has one. */
    public static function value(Property $property): string
    {
        return self::joined($property->getValue());
    }

    /** The same as it is written. */
    public static function raw(Property $property): string
    {
        return self::joined($property->getRawMimeDirValue());
    }

    private static function joined(mixed $value): string
    {
        return is_array($value) ? implode(',', array_map(self::joined(...), $value)) : (is_scalar($value) ? (string) $value : '');
    }

    /**
     * Properties of content lines that were kept; none where they cannot be read.
     *
     * @return list<Property>
     */
    public static function ofLines(string $lines): array
    {
        try {
            $calendar = Reader::read("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VTODO\r\n".str_replace("\n", "\r\n", $lines)
                ."\r\nEND:VTODO\r\nEND:VCALENDAR\r\n", Reader::OPTION_FORGIVING | Reader::OPTION_IGNORE_INVALID_LINES);
        } catch (\Throwable) {
            return [];
        }
        $component = $calendar instanceof VCalendar ? $calendar->getBaseComponent('VTODO') : null;
        $written = ['SUMMARY', 'DTSTART', 'DUE', 'DURATION', 'COMPLETED', 'PERCENT-COMPLETE', 'STATUS', 'DTSTAMP', 'UID', 'BEGIN', 'END'];

        return array_values(array_filter($component === null ? [] : self::of($component),
            static fn (mixed $p): bool => $p instanceof Property
            && ! in_array($p->name, $written, true) && ! str_starts_with($p->name, 'X-REIHE-')));
    }

    private static function property(Todo $todo, Property $property, Moments $moments): void
    {
        $name = $property->name;
        $value = trim(self::joined($property->getRawMimeDirValue()));
        $tzid = self::parameter($property, 'TZID');
        match ($name) {
            'SUMMARY' => null,
            'DTSTART' => [$todo->start, $todo->allDay] = $moments->read($value, $tzid),
            'DUE' => $todo->due = self::end(...$moments->read($value, $tzid)),
            'DTEND' => [$todo->due] = $moments->read($value, $tzid), // the day after the last already
            'COMPLETED' => [$todo->completed] = $moments->read($value, $tzid, true),
            'RECURRENCE-ID' => [$todo->instead] = $moments->read($value, $tzid),
            'DURATION' => [$todo->duration, $todo->days] = [Duration::parse($value), Duration::days($value)],
            'LAST-MODIFIED', 'DTSTAMP' => $todo->changed = max($todo->changed ?? Instant::MIN, $moments->read($value, $tzid, true)[0]),
            'PERCENT-COMPLETE' => $todo->percent = self::percent($value),
            'STATUS' => $todo->status = $value,
            'SEQUENCE' => $todo->sequence = (int) $value,
            'CATEGORIES' => array_push($todo->categories, ...array_map(static fn (mixed $part): string => is_scalar($part)
                ? (string) $part : '', array_values($property->getParts()))),
            'RELATED-TO' => self::relation($todo, $property),
            default => str_starts_with($name, 'X-REIHE-') ? $todo->extras[$name][] = Text::clean(self::value($property))
                : $todo->keep($name, Text::clean(self::line($property))),
        };
    }

    /**
     * An integer between zero and a hundred (RFC 5545, section 3.8.1.8); what lies beyond is taken as the nearest.
     *
     * @throws FormatError
     */
    public static function percent(string $value): int
    {
        if (preg_match('/^\s*[+-]?\d{1,9}\s*$/D', $value) !== 1) {
            throw new FormatError('“'.Text::short($value).'” is not a percentage');
        }

        return max(0, min(100, (int) $value));
    }

    /** A day that something is due means its end. */
    public static function end(int $moment, bool $isDay): int
    {
        return $isDay ? $moment + 1440 : $moment;
    }

    private static function relation(Todo $todo, Property $property): void
    {
        $gap = self::parameter($property, 'GAP');
        $extras = [];
        foreach (Relation::EXTRAS as $name) {
            $extras[$name] = self::parameter($property, "X-REIHE-{$name}");
        }
        $relation = new Relation(strtoupper(self::parameter($property, 'RELTYPE') ?? 'PARENT'), self::value($property),
            $gap === null ? 0 : Duration::parse($gap), self::parameter($property, 'X-REIHE-UID'), array_filter($extras, is_string(...)),
            $gap !== null);
        $relation->isKnown() ? $todo->relations[] = $relation : $todo->keep('RELATED-TO', self::line($property));
    }

    private static function parameter(Property $property, string $name): ?string
    {
        $found = $property->parameters()[$name] ?? null;
        $value = $found instanceof Parameter ? $found->getValue() : null;

        return is_string($value) ? $value : null;
    }

    private static function text(Component $component, string $name): string
    {
        $property = $component->{$name};

        return $property instanceof Property ? Text::clean(self::value($property)) : '';
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Reihe\Formats\Xml;
use Sabre\VObject\Component;
use Sabre\VObject\Component\VCalendar;
use Sabre\VObject\Parameter;
use Sabre\VObject\Property;
use Sabre\VObject\Property\FlatText;
use Sabre\VObject\Reader;

/** Reads iCalendar into to-do components. */
final class IcsReader
{
    /** @throws FormatError */
    public static function read(string $ics): Todos
    {
        VCalendar::$valueMap['UID'] = FlatText::class; // VALUE=UID of RFC 9253, section 7.1
        $todos = new Todos;
        $ics = self::checked($ics, $todos);
        try {
            $calendar = Reader::read($ics, Reader::OPTION_FORGIVING | Reader::OPTION_IGNORE_INVALID_LINES);
        } catch (\Exception $e) { // the library has no exception of its own for everything that it refuses
            $line = preg_match('/line (\d+)/i', $e->getMessage(), $m) === 1 ? (int) $m[1] : 1;
            throw new FormatError('the file is not iCalendar: '.Text::short($e->getMessage(), 200), $line);
        }
        if (! $calendar instanceof VCalendar) {
            throw new FormatError('the file is not an iCalendar file', 1);
        }
        foreach ($calendar->children() as $child) {
            if ($child instanceof Property && str_starts_with($child->name, 'X-REIHE-')) {
                $todos->extras[$child->name][] = (string) $child->getValue();
            }
        }
        $others = 0;
        foreach ($calendar->children() as $component) {
            if (! $component instanceof Component) {
                continue;
            }
            if ($component->name === 'VTODO') {
                $todos->items[] = self::todo($component, $todos);
            } elseif ($component->name !== 'VTIMEZONE') {
                $others++;
            }
        }
        if ($todos->withoutUid > 0) {
            $todos->notes[] = "{$todos->withoutUid} components without UID were given one.";
        }
        $todos->leaveOut('components that are not to-dos', $others);
        $todos->leaveOut('alarms and other components inside to-dos', self::inside($calendar));
        if ($todos->items === []) {
            throw new FormatError('the file holds no to-do components (VTODO)', 1);
        }

        return $todos;
    }

    /**
     * The text once it is certain that it is UTF-8, without characters and lines that cannot be read; what was dropped is
     * noted with its place.
     */
    private static function checked(string $ics, Todos $todos): string
    {
        if (str_starts_with($ics, "\xEF\xBB\xBF")) {
            $ics = substr($ics, 3);
        }
        if (! mb_check_encoding($ics, 'UTF-8')) {
            throw new FormatError('the file must be encoded in UTF-8', Xml::firstBadLine($ics));
        }
        $clean = Text::clean($ics);
        if (strlen($clean) !== strlen(str_replace(["\r\n", "\r"], "\n", $ics))) {
            $todos->notes[] = 'Left out: control characters, which no plan holds.';
        }
        $kept = [];
        $dropped = 0;
        $first = null;
        foreach (explode("\n", $clean) as $at => $line) {
            $continues = ($line[0] ?? '') === ' ' || ($line[0] ?? '') === "\t";
            if ($line === '' || $continues || preg_match('/^[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)?[;:]/', $line) === 1) {
                $kept[] = $line;

                continue;
            }
            $kept[] = '';
            $dropped++;
            $first ??= $at + 1;
        }
        $todos->leaveOut("lines that are no iCalendar, the first on line {$first}", $dropped);

        $todos->text = $ics;

        return implode("\n", $kept);
    }

    private static function inside(VCalendar $calendar): int
    {
        $count = 0;
        foreach ($calendar->getComponents() as $component) {
            $count += $component instanceof Component && $component->name === 'VTODO' ? count($component->getComponents()) : 0;
        }

        return $count;
    }

    private static function todo(Component $component, Todos $todos): Todo
    {
        $uid = self::text($component, 'UID');
        if ($uid === '') {
            $uid = 'todo:'.count($todos->items);
            $todos->withoutUid++;
        }
        $todo = new Todo($uid, self::text($component, 'SUMMARY'), self::text($component, 'DESCRIPTION'));
        foreach ($component->children() as $property) {
            if (! $property instanceof Property) {
                continue;
            }
            $name = $property->name;
            $value = trim((string) $property->getRawMimeDirValue());
            try {
                match (true) {
                    $name === 'DTSTART' => [$todo->start, $todo->allDay] = self::moment($value),
                    $name === 'DUE' => [$todo->due] = self::moment($value),
                    $name === 'COMPLETED' => [$todo->completed] = self::moment($value),
                    $name === 'DURATION' => $todo->duration = Duration::parse($value),
                    $name === 'PERCENT-COMPLETE' => $todo->percent = max(0, min(100, (int) $value)),
                    $name === 'STATUS' => $todo->status = $value,
                    $name === 'CATEGORIES' => array_push($todo->categories,
                        ...array_map(static fn (mixed $part): string => is_scalar($part) ? (string) $part : '',
                            array_values($property->getParts()))),
                    $name === 'RRULE' || $name === 'RDATE' => $todo->recurring = true,
                    $name === 'RELATED-TO' => $todo->relations[] = self::relation($property),
                    str_starts_with($name, 'X-REIHE-') => $todo->extras[$name][] = (string) $property->getValue(),
                    default => in_array($name, ['SUMMARY', 'DESCRIPTION'], true) ? null : $todo->leaveOut($name),
                };
            } catch (CoreException|FormatError $e) {
                throw new FormatError('component '.Text::short($uid).", {$name}: {$e->getMessage()}", $todos->lineOf($uid));
            }
            $todo->zoned = $todo->zoned || isset($property['TZID']);
        }

        return $todo;
    }

    private static function relation(Property $property): Relation
    {
        $parameter = static function (string $name) use ($property): ?string {
            $found = $property->parameters()[$name] ?? null;
            $value = $found instanceof Parameter ? $found->getValue() : null;

            return is_string($value) ? $value : null;
        };
        $gap = $parameter('GAP');

        return new Relation(strtoupper($parameter('RELTYPE') ?? 'PARENT'), (string) $property->getValue(),
            $gap === null ? 0 : Duration::parse($gap),
            $parameter('X-REIHE-UID'), array_filter(array_combine(Relation::EXTRAS,
                array_map(static fn (string $name): ?string => $parameter("X-REIHE-{$name}"), Relation::EXTRAS)), is_string(...)));
    }

    /**
     * Wall-clock reading of a date or date-time; zones are ignored, seconds dropped.
     *
     * @return array{int, bool} moment, whole day
     */
    public static function moment(string $text): array
    {
        if (preg_match('/^(\d{4})-?(\d\d)-?(\d\d)(?:T(\d\d):?(\d\d)(?::?\d\d)?Z?)?$/', $text, $m) !== 1) {
            throw new FormatError('“'.Text::short($text).'” is not a date');
        }

        return [Instant::parse("{$m[1]}-{$m[2]}-{$m[3]}T".($m[4] ?? '00').':'.($m[5] ?? '00')), ! isset($m[4])];
    }

    private static function text(Component $component, string $name): string
    {
        $property = $component->{$name};

        return $property instanceof Property ? (string) $property->getValue() : '';
    }
}

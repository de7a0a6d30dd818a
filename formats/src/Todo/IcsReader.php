<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Sabre\VObject\Component;
use Sabre\VObject\Component\VCalendar;
use Sabre\VObject\Property\FlatText;
use Sabre\VObject\Reader;

/**
 * Reads iCalendar into to-do components, one at a time, however many there are: several calendars in one file, any line ends, lines of
 * any length, UTF-8 or Latin-1.
 */
final class IcsReader
{
    private readonly Gathered $gathered;

    private function __construct(private readonly Todos $todos, Zone $zone, bool $events)
    {
        VCalendar::$propertyMap['RRULE'] = VCalendar::$valueMap['RECUR'] = Rule::class;
        VCalendar::$valueMap['UID'] = FlatText::class; // VALUE=UID of RFC 9253, section 7.1
        $this->gathered = new Gathered($todos, $zone, $events);
    }

    /**
     * @param  Zone|null  $zone  of the wall clock; UTC where it is not said
     * @param  bool  $events  appointments are read too
     *
     * @throws FormatError
     */
    public static function read(string $ics, ?Zone $zone = null, bool $events = false): Todos
    {
        $todos = new Todos;
        $self = new self($todos, $zone ?? new Zone('UTC'), $events);
        $self->document(self::decoded($ics, $todos));
        $self->gathered->finish();
        if ($todos->items === []) {
            throw new FormatError('the file holds no to-do components (VTODO)', 1);
        }

        return $todos;
    }

    /** The text in UTF-8, without what no plan can hold. */
    private static function decoded(string $ics, Todos $todos): string
    {
        foreach (["\xFF\xFE" => 'UTF-16LE', "\xFE\xFF" => 'UTF-16BE'] as $mark => $encoding) {
            $ics = str_starts_with($ics, $mark) ? mb_convert_encoding(substr($ics, 2), 'UTF-8', $encoding) : $ics;
        }
        $ics = str_starts_with($ics, "\xEF\xBB\xBF") ? substr($ics, 3) : $ics;
        $ics = str_replace(["\r\n", "\r"], "\n", $ics);
        if (! mb_check_encoding($ics, 'UTF-8')) {
            // a letter may be folded in the middle
            $unfolded = (string) preg_replace('/\n[ \t]/', '', $ics);
            if (mb_check_encoding($unfolded, 'UTF-8')) {
                $ics = $unfolded;
            } else {
                $ics = mb_convert_encoding($ics, 'UTF-8', 'Windows-1252');
                $todos->notes[] = 'The file is not encoded in UTF-8; it was read as Latin-1.';
            }
        }
        $clean = Text::clean($ics);
        if (strlen($clean) !== strlen($ics)) {
            $todos->notes[] = 'Left out: control characters, which no plan holds.';
        }
        $todos->text = $clean;

        return $clean;
    }

    private function document(string $ics): void
    {
        if (stripos($ics, 'BEGIN:VTIMEZONE') !== false) { // they may stand behind what names them
            preg_match_all('/^BEGIN:VTIMEZONE[ \t]*$.*?^END:VTIMEZONE[ \t]*$/ims', $ics, $zones);
            foreach ($zones[0] as $zone) {
                try {
                    $calendar = self::parsed("BEGIN:VCALENDAR\r\n".str_replace("\n", "\r\n", $zone)."\r\nEND:VCALENDAR\r\n", 1);
                    foreach ($calendar->getComponents() as $component) {
                        $component instanceof Component && $this->gathered->add($component, $calendar);
                    }
                } catch (FormatError) {
                    continue; // it is read as one that nobody knows
                }
            }
        }
        $chunk = [];
        $depth = $line = $dropped = 0;
        $first = null;
        $names = [];
        for ($at = 0, $end = strlen($ics); $at < $end; $at = $next + 1) {
            $line++;
            $next = strpos($ics, "\n", $at);
            $next = $next === false ? $end : $next;
            $text = substr($ics, $at, $next - $at);
            if ($text === '') {
                continue;
            }
            if ($text[0] === ' ' || $text[0] === "\t") { // goes on with the line before
                $chunk === [] ?: $chunk[$line] = $text;

                continue;
            }
            if (preg_match('/^(BEGIN|END):\s*([A-Za-z0-9-]+)\s*$/i', $text, $m) !== 1) {
                if (preg_match('/^[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)?[;:]/', $text) !== 1) {
                    if ($names === []) {
                        throw new FormatError('the file is not iCalendar: it must begin with BEGIN:VCALENDAR', $line);
                    }
                    $dropped++;
                    $first ??= $line;
                } elseif ($depth > 1) {
                    $chunk[$line] = $text;
                } elseif ($depth === 1) {
                    $this->ofCalendar($text, $ics, $next);
                }

                continue;
            }
            $name = strtoupper($m[2]);
            if (strtoupper($m[1]) === 'BEGIN') {
                if ($names === [] && $name !== 'VCALENDAR') {
                    throw new FormatError('the file is not iCalendar: it must begin with BEGIN:VCALENDAR', $line);
                }
                $depth++;
                $names[] = $name;
                if (count($names) > 20) {
                    throw new FormatError('components lie more than 20 deep in each other', $line);
                }
                $depth > 1 ? $chunk[$line] = "BEGIN:{$name}" : null;

                continue;
            }
            if (array_pop($names) !== $name) {
                throw new FormatError("END:{$name} ends what was not begun", $line);
            }
            $depth--;
            if ($depth > 0) {
                $chunk[$line] = "END:{$name}";
            }
            if ($depth === 1) {
                $this->component($name, $chunk, $line);
                $chunk = [];
            }
        }
        if ($names !== []) {
            throw new FormatError('the file ends inside '.$names[count($names) - 1], $line);
        }
        $this->todos->leaveOut("line that is no iCalendar, on line {$first}", "lines that are no iCalendar, the first on line {$first}",
            $dropped);
    }

    /** A property of the calendar itself; those of ours describe what components name. */
    private function ofCalendar(string $text, string $ics, int $next): void
    {
        if (stripos($text, 'X-REIHE-') !== 0) {
            return;
        }
        while (in_array($ics[$next + 1] ?? '', [' ', "\t"], true)) {
            $end = strpos($ics, "\n", $next + 1);
            $text .= substr($ics, $next + 2, ($end === false ? strlen($ics) : $end) - $next - 2);
            $next = $end === false ? strlen($ics) : $end;
        }
        $calendar = self::parsed("BEGIN:VCALENDAR\r\n{$text}\r\nEND:VCALENDAR\r\n", 1);
        foreach ($calendar->children() as $property) {
            if ($property instanceof \Sabre\VObject\Property) {
                $this->todos->extras[$property->name][] = Components::value($property);
            }
        }
    }

    /** @param  array<int, string>  $chunk  lines of the file by number */
    private function component(string $name, array $chunk, int $line): void
    {
        if ($name === 'VTIMEZONE' || ! $this->gathered->wants($name)) {
            return;
        }
        $this->todos->place = static fn (string $property): int => (int) array_key_first(array_filter($chunk,
            static fn (string $l): bool => preg_match('/^'.preg_quote($property, '/').'[;:]/i', $l) === 1) ?: $chunk);
        /** @param  array<int, string>  $lines */
        $text = static fn (array $lines): string => "BEGIN:VCALENDAR\r\n".implode("\r\n", array_filter($lines,
            is_string(...)))."\r\nEND:VCALENDAR\r\n";
        try {
            $calendar = self::parsed($text($chunk), $line);
        } catch (FormatError) { // a line that cannot be read is left out, the others count
            $calendar = self::parsed($text($this->readable($chunk)), $line);
        }
        foreach ($calendar->getComponents() as $component) {
            try {
                $component instanceof Component ? $this->gathered->add($component, $calendar) : null;
            } catch (FormatError $e) { // one that has no uid to be found by
                throw $e->fileLine === null ? new FormatError($e->why, $line) : $e;
            }
        }
    }

    /**
     * Lines of a component that can be read by themselves.
     *
     * @param  array<int, string>  $chunk
     * @return array<int, string>
     */
    private function readable(array $chunk): array
    {
        $whole = [];
        foreach ($chunk as $number => $text) {
            $begins = $text[0] !== ' ' && $text[0] !== "\t";
            $begins ? $whole[$number] = $text : $whole[array_key_last($whole) ?? $number] .= "\r\n{$text}";
        }
        foreach ($whole as $number => $text) {
            if (preg_match('/^(BEGIN|END):/i', $text) === 1) {
                continue;
            }
            try {
                $one = self::parsed("BEGIN:VCALENDAR\r\nBEGIN:VTODO\r\n{$text}\r\nEND:VTODO\r\nEND:VCALENDAR\r\n", $number);
                foreach ($one->getBaseComponent('VTODO')?->children() ?? [] as $property) {
                    $property instanceof \Sabre\VObject\Property && $property->serialize();
                }
            } catch (\Throwable) {
                unset($whole[$number]);
                $this->todos->place = static fn (): int => $number;
                $this->todos->refuse(Text::short(explode(':', explode(';', $text)[0])[0], 40), 'has a form that is none', '');
            }
        }

        return $whole;
    }

    private static function parsed(string $text, int $line): VCalendar
    {
        try {
            $calendar = Reader::read($text, Reader::OPTION_FORGIVING | Reader::OPTION_IGNORE_INVALID_LINES);
        } catch (\Throwable $e) { // the library has no exception of its own for everything that it refuses, and takes forms for granted
            $why = $e instanceof \Error ? 'a parameter or value has a form that is none' : $e->getMessage();
            throw new FormatError('the file is not iCalendar: '.Text::short((string) preg_replace('/ ?on line \d+ ?/i', ' ', $why), 200),
                $line);
        }

        return $calendar instanceof VCalendar ? $calendar : throw new FormatError('the file is not an iCalendar file', $line);
    }
}

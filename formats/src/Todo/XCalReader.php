<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Reihe\Formats\Xml;
use XMLReader;

/** Reads xCal (RFC 6321) into to-do components. Errors name the line. */
final class XCalReader
{
    private readonly Todos $todos;

    private ?Todo $todo = null;

    private int $ordinal = 0;

    /** @var list<string> open elements */
    private array $path = [];

    /** @var array{values: list<string>, parameters: array<string, string>} */
    private array $property = ['values' => [], 'parameters' => []];

    private string $text = '';

    /** depth at which a component that is not looked at began */
    private ?int $passing = null;

    private ?string $rule = null;

    private readonly Gathered $gathered;

    private function __construct(private readonly string $xml, Zone $zone, private readonly bool $events)
    {
        $this->todos = new Todos;
        $this->gathered = new Gathered($this->todos, $zone, $events);
    }

    /**
     * @param  Zone|null  $zone  of the wall clock; UTC where it is not said
     * @param  bool  $events  appointments are read too
     *
     * @throws FormatError
     */
    public static function read(string $xml, ?Zone $zone = null, bool $events = false): Todos
    {
        $xml = Xml::decoded($xml);
        $self = new self($xml, $zone ?? new Zone('UTC'), $events);
        $self->todos->text = $xml;
        try {
            Xml::reading($self->document(...));
        } catch (FormatError $e) {
            throw $e->fileLine === null ? new FormatError($e->why, Xml::lineOfElement($xml, $self->ordinal)) : $e;
        } catch (CoreException $e) {
            throw new FormatError($e->getMessage(), Xml::lineOfElement($xml, $self->ordinal));
        }
        $self->gathered->finish();
        if ($self->todos->items === []) {
            throw new FormatError('the file holds no to-do components (vtodo)', 1);
        }

        return $self->todos;
    }

    private function document(): void
    {
        $reader = new XMLReader;
        $reader->XML($this->xml, null, LIBXML_NONET);
        while (@$reader->read()) {
            if ($reader->nodeType === XMLReader::ELEMENT) {
                $this->ordinal++;
                if ($this->ordinal === 1 && ($reader->localName !== 'icalendar' || $reader->namespaceURI !== XCalWriter::NAMESPACE)) {
                    throw new FormatError('the file is not xCal: its first element must be icalendar of RFC 6321',
                        Xml::lineOfElement($this->xml, 1));
                }
                $empty = $reader->isEmptyElement;
                $this->begin($reader->localName);
                if ($empty) {
                    $this->end($reader->localName);
                }
            } elseif ($reader->nodeType === XMLReader::END_ELEMENT) {
                $this->end($reader->localName);
            } elseif (in_array($reader->nodeType, [XMLReader::TEXT, XMLReader::CDATA, XMLReader::SIGNIFICANT_WHITESPACE], true)) {
                $this->text .= $reader->value;
            }
        }
        Xml::raise();
    }

    private function begin(string $name): void
    {
        $this->text = '';
        if (($this->path[count($this->path) - 1] ?? '') === 'properties') {
            $this->property = ['values' => [], 'parameters' => []];
        }
        $this->path[] = $name;
        if ($this->passing !== null || ! $this->isComponent()) {
            return;
        }
        if ($this->todo !== null) {
            $this->todos->alarms++;
            $this->passing = count($this->path);
        } elseif (! $this->gathered->wants(strtoupper($name)) || $name === 'vtimezone') { // zones are known by their names
            $this->passing = count($this->path);
        } else {
            $this->todo = new Todo('todo:'.count($this->todos->items));
            $this->todo->isEvent = $name === 'vevent';
            $this->rule = null;
        }
    }

    private function end(string $name): void
    {
        if ($this->passing !== null) {
            $this->passing = count($this->path) === $this->passing ? null : $this->passing;
            array_pop($this->path);

            return;
        }
        array_pop($this->path);
        $above = $this->path[count($this->path) - 1] ?? '';
        $twoAbove = $this->path[count($this->path) - 2] ?? '';
        if (($name === 'vtodo' || $name === 'vevent') && $this->todo !== null && $above === 'components') {
            $this->gathered->todo($this->todo, $this->rule);
            $this->todo = null;
        } elseif ($above === 'properties') {
            try {
                $this->closeProperty(strtoupper($name));
            } catch (CoreException|FormatError $e) {
                $this->todos->place = fn (string $property): ?int => Xml::lineOfElement($this->xml, $this->ordinal);
                $this->todos->refuse(strtoupper($name), $e->getMessage(), '');
            }
        } elseif ($twoAbove === 'parameters') {
            $this->property['parameters'][$above] = trim($this->text);
        } elseif ($above === 'recur') { // its parts are elements (RFC 6321, section 3.6.10)
            $this->property['values'][] = strtoupper($name).'='.trim($this->text);
        } elseif ($twoAbove === 'properties' && $name !== 'parameters' && $name !== 'recur') {
            $this->property['values'][] = $this->text;
        }
        $this->text = '';
    }

    private function closeProperty(string $name): void
    {
        $values = $this->property['values'];
        $value = $values[0] ?? '';
        $todo = $this->todo;
        $of = $this->path[count($this->path) - 2] ?? '';
        if ($todo === null) {
            if ($of === 'vcalendar' && str_starts_with($name, 'X-REIHE-')) {
                $this->todos->extras[$name][] = $value;
            }

            return;
        }
        $moments = $this->gathered->moments();
        $tzid = $this->property['parameters']['tzid'] ?? null;
        match ($name) {
            'UID' => $todo->uid = $value,
            'SUMMARY' => $todo->summary = Text::clean($value),
            'STATUS' => $todo->status = trim($value),
            'DTSTART' => [$todo->start, $todo->allDay] = $moments->read($value, $tzid),
            'DUE' => $todo->due = Components::end(...$moments->read($value, $tzid)),
            'DTEND' => [$todo->due] = $moments->read($value, $tzid),
            'COMPLETED' => [$todo->completed] = $moments->read($value, $tzid, true),
            'RECURRENCE-ID' => [$todo->instead] = $moments->read($value, $tzid),
            'SEQUENCE' => $todo->sequence = (int) $value,
            'DURATION' => [$todo->duration, $todo->days] = [Duration::parse($value), Duration::days($value)],
            'LAST-MODIFIED', 'DTSTAMP' => $todo->changed = max($todo->changed ?? Instant::MIN, $moments->read($value, $tzid, true)[0]),
            'PERCENT-COMPLETE' => $todo->percent = Components::percent($value),
            'CATEGORIES' => array_push($todo->categories, ...$values),
            'RRULE' => $this->rule .= self::line($name, [implode(';', $values)], []),
            'RDATE', 'EXDATE' => $this->rule .= self::line($name,
                [implode(',', array_map(static fn (string $v): string => str_replace(['-', ':'], '', trim($v)), $values))], []),
            'RELATED-TO' => $this->relation($todo, $value),
            default => str_starts_with($name, 'X-REIHE-') ? $todo->extras[$name][] = $value
                : $todo->keep($name, rtrim(self::line($name, $values, $this->property['parameters']))),
        };
    }

    /**
     * A content line (RFC 5545, section 3.1), unfolded.
     *
     * @param  list<string>  $values
     * @param  array<string, string>  $parameters
     */
    private static function line(string $name, array $values, array $parameters): string
    {
        $isRaw = str_starts_with($name, 'X-') || in_array($name, ['RRULE', 'RDATE', 'EXDATE', 'GEO', 'REQUEST-STATUS', 'URL', 'ATTACH',
            'ATTENDEE', 'ORGANIZER'], true);
        $text = implode($name === 'GEO' || $name === 'REQUEST-STATUS' ? ';' : ',', array_map(static fn (string $v): string => $isRaw ? $v
            : str_replace(['\\', "\n", ';', ','], ['\\\\', '\n', '\;', '\,'], $v), $values));
        foreach ($parameters as $parameter => $value) {
            $value = str_replace(["\n", '"'], [' ', "'"], $value);
            $name .= ';'.strtoupper($parameter).'='.(strpbrk($value, ':;,') === false ? $value : "\"{$value}\"");
        }

        return "{$name}:{$text}\r\n";
    }

    /** Does the element just opened stand where components do? */
    private function isComponent(): bool
    {
        return ($this->path[count($this->path) - 2] ?? '') === 'components';
    }

    private function relation(Todo $todo, string $uid): void
    {
        $p = $this->property['parameters'];
        $extras = array_filter(array_combine(Relation::EXTRAS,
            array_map(static fn (string $name): ?string => $p['x-reihe-'.strtolower($name)] ?? null, Relation::EXTRAS)), is_string(...));
        $relation = new Relation(strtoupper($p['reltype'] ?? 'PARENT'), $uid, isset($p['gap']) ? Duration::parse($p['gap']) : 0,
            $p['x-reihe-uid'] ?? null, $extras, isset($p['gap']));
        $relation->isKnown() ? $todo->relations[] = $relation : $todo->keep('RELATED-TO', rtrim(self::line('RELATED-TO', [$uid], $p)));
    }
}

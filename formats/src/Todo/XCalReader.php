<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
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

    /** components that are not to-dos, alarms inside them too */
    private int $others = 0;

    private function __construct(private readonly string $xml)
    {
        $this->todos = new Todos;
    }

    /** @throws FormatError */
    public static function read(string $xml): Todos
    {
        $xml = Xml::decoded($xml);
        $self = new self($xml);
        $self->todos->text = $xml;
        try {
            Xml::reading($self->document(...));
        } catch (FormatError $e) {
            throw $e->fileLine === null ? new FormatError($e->why, Xml::lineOfElement($xml, $self->ordinal)) : $e;
        } catch (CoreException $e) {
            throw new FormatError($e->getMessage(), Xml::lineOfElement($xml, $self->ordinal));
        }
        $self->todos->leaveOut('components that are not to-dos', $self->others);
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
        if ($this->isComponent() && $name !== 'vtodo' && $name !== 'vtimezone') {
            $this->others++;
        }
        if ($name === 'vtodo') {
            $this->todo = new Todo('todo:'.count($this->todos->items));
        }
    }

    private function end(string $name): void
    {
        array_pop($this->path);
        $above = $this->path[count($this->path) - 1] ?? '';
        $twoAbove = $this->path[count($this->path) - 2] ?? '';
        if ($name === 'vtodo' && $this->todo !== null) {
            $this->todos->items[] = $this->todo;
            $this->todo = null;
        } elseif ($above === 'properties') {
            $this->closeProperty(strtoupper($name));
        } elseif ($twoAbove === 'parameters') {
            $this->property['parameters'][$above] = trim($this->text);
        } elseif ($twoAbove === 'properties' && $name !== 'parameters') {
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
        if ($of !== 'vtodo' && $of !== 'vcalendar') {
            return; // an alarm, or another component that is counted and left out
        }
        if ($todo === null) {
            if (str_starts_with($name, 'X-REIHE-')) {
                $this->todos->extras[$name][] = $value;
            }

            return;
        }
        match (true) {
            $name === 'UID' => $todo->uid = $value,
            $name === 'SUMMARY' => $todo->summary = Text::clean($value),
            $name === 'DESCRIPTION' => $todo->description = Text::clean($value),
            $name === 'STATUS' => $todo->status = $value,
            $name === 'DTSTART' => [$todo->start, $todo->allDay] = IcsReader::moment(trim($value)),
            $name === 'DUE' => [$todo->due] = IcsReader::moment(trim($value)),
            $name === 'COMPLETED' => [$todo->completed] = IcsReader::moment(trim($value)),
            $name === 'DURATION' => $todo->duration = Duration::parse($value),
            $name === 'PERCENT-COMPLETE' => $todo->percent = max(0, min(100, (int) $value)),
            $name === 'CATEGORIES' => array_push($todo->categories, ...$values),
            $name === 'RRULE' || $name === 'RDATE' => $todo->recurring = true,
            $name === 'RELATED-TO' => $todo->relations[] = $this->relation($value),
            str_starts_with($name, 'X-REIHE-') => $todo->extras[$name][] = $value,
            default => $todo->leaveOut($name),
        };
        if (isset($this->property['parameters']['tzid'])) {
            $todo->zoned = true;
        }
    }

    /** Does the element just opened stand where components do? */
    private function isComponent(): bool
    {
        return ($this->path[count($this->path) - 2] ?? '') === 'components';
    }

    private function relation(string $uid): Relation
    {
        $p = $this->property['parameters'];

        $extras = array_filter(array_combine(Relation::EXTRAS,
            array_map(static fn (string $name): ?string => $p['x-reihe-'.strtolower($name)] ?? null, Relation::EXTRAS)), is_string(...));

        return new Relation(strtoupper($p['reltype'] ?? 'PARENT'), $uid, isset($p['gap']) ? Duration::parse($p['gap']) : 0,
            $p['x-reihe-uid'] ?? null, $extras);
    }
}

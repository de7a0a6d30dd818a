<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Sabre\VObject\Parameter;
use Sabre\VObject\Property;
use XMLWriter;

/** Writes to-do components as xCal (RFC 6321) with the relations of RFC 9253. */
final class XCalWriter
{
    public const NAMESPACE = 'urn:ietf:params:xml:ns:icalendar-2.0';

    private function __construct(private readonly XMLWriter $xml, private readonly Moments $moments)
    {
    }

    /**
     * @param  string  $stamp  DTSTAMP in UTC, `2026-03-27T08:00:00Z`
     * @param  Zone|null  $zone  of the wall clock; UTC where it is not said
     */
    public static function write(Todos $todos, string $stamp, ?Zone $zone = null): string
    {
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->setIndentString(' ');
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs(null, 'icalendar', self::NAMESPACE);
        $xml->startElement('vcalendar');
        $self = new self($xml, new Moments($zone ?? new Zone('UTC')));
        $xml->startElement('properties');
        $self->property('prodid', 'text', [IcsWriter::PRODUCT]);
        $self->property('version', 'text', ['2.0']);
        $self->extras($todos->extras);
        $xml->endElement();
        $xml->startElement('components');
        foreach ($todos->items as $todo) {
            $self->todo($todo, $stamp);
        }
        $xml->endElement();
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    private function todo(Todo $todo, string $stamp): void
    {
        $this->xml->startElement('vtodo');
        $this->xml->startElement('properties');
        $this->property('uid', 'text', [$todo->uid]);
        $this->property('dtstamp', 'date-time', [$stamp]);
        foreach (['summary' => $todo->summary, 'status' => (string) $todo->status] as $name => $value) {
            if ($value !== '') {
                $this->property($name, 'text', [$value]);
            }
        }
        foreach (['dtstart' => $todo->start, 'due' => $todo->due] as $name => $moment) {
            if ($moment !== null) {
                $this->property($name, 'date-time', [Instant::format($moment).':00']);
            }
        }
        if ($todo->percent !== null) {
            $this->property('percent-complete', 'integer', [(string) $todo->percent]);
        }
        if ($todo->completed !== null) {
            $this->property('completed', 'date-time', [Instant::format($this->moments->zone->utc($todo->completed)).':00Z']);
        }
        if ($todo->categories !== []) {
            $this->property('categories', 'text', $todo->categories);
        }
        foreach ($todo->relations as $relation) {
            $this->property('related-to', 'text', [$relation->uid], array_filter([
                'reltype' => ['text', $relation->type],
                'gap' => $relation->gap === 0 ? null : ['duration', Duration::format($relation->gap)],
                'x-reihe-uid' => $relation->linkUid === null ? null : ['unknown', $relation->linkUid],
            ]) + array_combine(array_map(static fn (string $name): string => 'x-reihe-'.strtolower($name), array_keys($relation->extras)),
                array_map(static fn (string $value): array => ['unknown', $value], array_values($relation->extras))));
        }
        $this->extras($todo->extras);
        foreach ($todo->kept === [] ? [] : Components::ofLines(implode("\n", $todo->kept)) as $property) {
            $this->kept($property);
        }
        $this->xml->endElement();
        $this->xml->endElement();
    }

    private function kept(Property $property): void
    {
        $parameters = [];
        foreach ($property->parameters() as $name => $parameter) {
            $value = $parameter instanceof Parameter ? $parameter->getValue() : null;
            strtoupper((string) $name) === 'VALUE' || ! is_string($value) ?: $parameters[strtolower((string) $name)] = ['text', $value];
        }
        $values = [];
        foreach ($property->getJsonValue() as $value) {
            $values[] = is_scalar($value) ? (string) $value : implode(';', array_filter((array) $value, is_scalar(...)));
        }
        $this->property(strtolower($property->name), strtolower($property->getValueType()), $values, $parameters);
    }

    /** @param  array<string, list<string>>  $extras */
    private function extras(array $extras): void
    {
        foreach ($extras as $name => $values) {
            foreach ($values as $value) {
                $this->property(strtolower($name), 'unknown', [$value]);
            }
        }
    }

    /**
     * @param  list<string>  $values
     * @param  array<string, array{string, string}>  $parameters  name => value type, value
     */
    private function property(string $name, string $type, array $values, array $parameters = []): void
    {
        $this->xml->startElement($name);
        if ($parameters !== []) {
            $this->xml->startElement('parameters');
            foreach ($parameters as $parameter => [$kind, $value]) {
                $this->xml->startElement($parameter);
                $this->xml->writeElement($kind, $value);
                $this->xml->endElement();
            }
            $this->xml->endElement();
        }
        foreach ($values as $value) {
            $this->xml->writeElement($type, $value);
        }
        $this->xml->endElement();
    }
}

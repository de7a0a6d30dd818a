<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Time\Instant;
use XMLWriter;

/** Writes to-do components as xCal (RFC 6321) with the relations of RFC 9253. */
final class XCalWriter
{
    public const NAMESPACE = 'urn:ietf:params:xml:ns:icalendar-2.0';

    private function __construct(private readonly XMLWriter $xml)
    {
    }

    /** @param  string  $stamp DTSTAMP in UTC, `2026-03-27T08:00:00Z` */
    public static function write(Todos $todos, string $stamp): string
    {
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->setIndentString(' ');
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs(null, 'icalendar', self::NAMESPACE);
        $xml->startElement('vcalendar');
        $self = new self($xml);
        $xml->startElement('properties');
        $self->property('prodid', 'text', ['-//Reihe//plan//EN']);
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
        foreach (['summary' => $todo->summary, 'description' => $todo->description,
            'status' => (string) $todo->status] as $name => $value) {
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
            $this->property('completed', 'date-time', [Instant::format($todo->completed).':00Z']);
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
        $this->xml->endElement();
        $this->xml->endElement();
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

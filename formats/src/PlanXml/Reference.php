<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use DOMDocument;
use DOMElement;
use DOMXPath;
use Reihe\Core\Plan\EntityKind;

/** The reference of plan XML, written from its schema; what an attribute means also from the catalogue of fields. */
final class Reference
{
    public const XS = 'http://www.w3.org/2001/XMLSchema';

    /** types of values that an example says more about than their pattern */
    private const SAID = ['dateTime' => 'moment like `2026-03-02T08:00`',
        'hours' => 'periods like `08:00-12:00 13:00-17:00`; empty for none'];

    private readonly DOMXPath $schema;

    /** @var array<string, string> name of an element => its part of the page, in the order in which they occur */
    private array $parts = [];

    private function __construct()
    {
        $document = new DOMDocument;
        $document->load(PlanXmlReader::SCHEMA, LIBXML_NONET);
        $this->schema = new DOMXPath($document);
        $this->schema->registerNamespace('xs', self::XS);
    }

    /** The page in Markdown. */
    public static function markdown(): string
    {
        $self = new self;
        $root = $self->node('/xs:schema/xs:element');
        $self->element($root);
        $intro = $self->documented($self->node('/xs:schema'));

        return "# Plan XML 1.1\n\nWritten by `php artisan reihe:catalogue` from the [schema](../formats/src/PlanXml/plan.xsd) and the "
            ."catalogue of fields. Namespace `urn:reihe:plan:1`.\n\n{$intro}\n".implode('', $self->parts);
    }

    private function element(DOMElement $element): void
    {
        $name = $element->getAttribute('name');
        if (isset($this->parts[$name])) {
            return;
        }
        $this->parts[$name] = ''; // before those inside it
        $type = $this->type($element);
        $inside = [];
        foreach ($type === null ? [] : $this->elements($type) as $child) {
            $inside[$child->getAttribute('name')] = $this->occurs($child);
        }
        $about = trim($this->documented($element).' '.($type === null ? '' : $this->documented($type)));
        $text = "\n## {$name}\n\n".($about === '' ? '' : "{$about}\n\n");
        if ($inside !== []) {
            $text .= 'Inside, in this order: '.implode(', ', array_map(
                static fn (string $n, string $o): string => "[{$n}](#".strtolower($n).") {$o}", array_keys($inside), $inside)).".\n\n";
        }
        $rows = '';
        foreach ($type === null ? [] : $this->children($type, 'xs:attribute') as $attribute) {
            $rows .= $this->attribute($name, $attribute);
        }
        $this->parts[$name] = $text.($rows === '' ? '' : "| attribute | | values | meaning |\n|---|---|---|---|\n{$rows}");
        foreach ($type === null ? [] : $this->elements($type) as $child) {
            $this->element($child);
        }
    }

    private function attribute(string $element, DOMElement $a): string
    {
        $name = $a->getAttribute('name');
        $meaning = $this->documented($a);
        $field = (EntityKind::tryFrom($element)?->fields() ?? [])[$name] ?? null;
        if ($meaning === '' && $field !== null) {
            $meaning = $field->meaning.($field->unit === null ? '' : " In {$field->unit}.");
        }
        $type = $this->simple($a);
        $meaning = $meaning !== '' || $type === null ? $meaning : $this->documented($type);
        if ($name === 'uid') {
            $meaning = 'Identity. '.$meaning;
        }
        $default = $a->hasAttribute('default') ? ", `{$a->getAttribute('default')}` where left out" : '';

        $needed = $a->getAttribute('use') === 'required' ? 'required' : '';

        return "| `{$name}` | {$needed} | {$this->values($a, $type)}{$default} | "
            .str_replace('|', '\|', $meaning)." |\n";
    }

    /** What may stand in an attribute. */
    private function values(DOMElement $a, ?DOMElement $type): string
    {
        $said = self::SAID[$a->getAttribute('type')] ?? null;
        if ($said !== null) {
            return $said;
        }
        if ($type === null) {
            return ['xs:string' => 'text', 'xs:token' => 'text', 'xs:boolean' => 'true or false', 'xs:integer' => 'whole number',
                'xs:decimal' => 'number', 'xs:nonNegativeInteger' => 'whole number from 0'][$a->getAttribute('type')]
                ?? $a->getAttribute('type');
        }
        $facets = [];
        foreach (['enumeration', 'pattern', 'minInclusive', 'maxInclusive', 'minLength', 'maxLength'] as $facet) {
            foreach ($this->children($type, ".//xs:{$facet}") as $f) {
                $facets[$facet][] = $f->getAttribute('value');
            }
        }

        return match (true) {
            isset($facets['enumeration']) => implode(', ', array_map(static fn (string $v): string => "`{$v}`", $facets['enumeration'])),
            isset($facets['pattern']) => '`'.str_replace('|', '\|', $facets['pattern'][0]).'`',
            isset($facets['minInclusive']) => "{$facets['minInclusive'][0]} … ".($facets['maxInclusive'][0] ?? ''),
            default => 'text'.(isset($facets['maxLength']) ? " of up to {$facets['maxLength'][0]} characters" : ''),
        };
    }

    /** @return list<DOMElement> elements that may stand inside a type, those of its groups too */
    private function elements(DOMElement $type): array
    {
        $found = [];
        foreach ($this->children($type, './/xs:element | .//xs:group') as $node) {
            if ($node->localName === 'group') {
                $named = $this->node("/xs:schema/xs:group[@name='{$node->getAttribute('ref')}']");
                array_push($found, ...$this->children($named, './/xs:element'));
            } elseif ($this->closest($node) === $type) {
                $found[] = $node;
            }
        }

        return $found;
    }

    /** The type that an element stands in. */
    private function closest(DOMElement $element): ?DOMElement
    {
        for ($at = $element->parentNode; $at instanceof DOMElement && $at->localName !== 'complexType'; $at = $at->parentNode);

        return $at instanceof DOMElement ? $at : null;
    }

    private function type(DOMElement $element): ?DOMElement
    {
        $named = $element->getAttribute('type');

        return $this->children($element, $named === '' ? 'xs:complexType' : "/xs:schema/xs:complexType[@name='{$named}']")[0] ?? null;
    }

    private function simple(DOMElement $attribute): ?DOMElement
    {
        $named = $attribute->getAttribute('type');

        return $this->children($attribute, $named === '' ? 'xs:simpleType' : "/xs:schema/xs:simpleType[@name='{$named}']")[0] ?? null;
    }

    private function occurs(DOMElement $element): string
    {
        $above = $element->parentNode;
        $group = $above instanceof DOMElement && $above->localName === 'choice' ? $above : $element;

        return match (true) {
            $group->getAttribute('maxOccurs') === 'unbounded' => '(any number)',
            $group->getAttribute('maxOccurs') !== '' => "(up to {$group->getAttribute('maxOccurs')})",
            $group->getAttribute('minOccurs') === '0' => '(or none)',
            default => '(one)',
        };
    }

    private function documented(DOMElement $node): string
    {
        $text = ($this->children($node, 'xs:annotation/xs:documentation')[0] ?? null)->textContent ?? '';

        return trim((string) preg_replace('/\s+/', ' ', $text));
    }

    private function node(string $path): DOMElement
    {
        return $this->children(null, $path)[0] ?? throw new \LogicException("the schema has no {$path}");
    }

    /** @return list<DOMElement> */
    private function children(?DOMElement $of, string $path): array
    {
        $found = $this->schema->query($path, $of);

        return $found === false ? []
            : array_values(array_filter(iterator_to_array($found), static fn ($n): bool => $n instanceof DOMElement));
    }
}

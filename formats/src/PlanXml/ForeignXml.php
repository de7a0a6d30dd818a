<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use DOMDocument;
use DOMElement;
use XMLWriter;

/**
 * Attributes and elements of other namespaces, as they are kept: inside one element `kept` without a namespace, its attributes being
 * those of the object, its children the elements. The way back writes only what may stand there.
 */
final class ForeignXml
{
    /**
     * @param  list<array{string, string, string, string}>  $attributes  prefix, name, namespace, value
     * @param  list<string>  $elements  each whole, with its namespaces
     * @return string|null null where there is nothing
     */
    public static function kept(array $attributes, array $elements): ?string
    {
        if ($attributes === [] && $elements === []) {
            return null;
        }
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->startElement('kept');
        self::written($xml, $attributes, $elements);
        $xml->endElement();

        return $xml->outputMemory();
    }

    /**
     * @return array{list<array{string, string, string, string}>, list<string>} attributes and elements; none where the text is not what
     *     is kept
     */
    public static function read(string $kept): array
    {
        $none = [[], []];
        if (! str_starts_with($kept, '<kept') || stripos($kept, '<!DOCTYPE') !== false) {
            return $none;
        }
        $document = new DOMDocument;
        $errors = libxml_use_internal_errors(true);
        $read = $document->loadXML($kept, LIBXML_NONET);
        libxml_clear_errors();
        libxml_use_internal_errors($errors);
        $root = $document->documentElement;
        if (! $read || $root === null || $root->nodeName !== 'kept') {
            return $none;
        }
        $attributes = $elements = [];
        foreach ($root->attributes as $a) {
            if (self::isForeign($a->namespaceURI)) {
                $attributes[] = [$a->prefix, (string) $a->localName, (string) $a->namespaceURI, $a->value];
            }
        }
        foreach ($root->childNodes as $child) {
            if ($child instanceof DOMElement && self::isForeign($child->namespaceURI)) {
                $elements[] = (string) $document->saveXML($child);
            }
        }

        return [$attributes, $elements];
    }

    /** Writes into the element that is open; elements last. */
    public static function write(XMLWriter $xml, string $kept, bool $attributes): void
    {
        $read = self::read($kept);
        self::written($xml, $attributes ? $read[0] : [], $attributes ? [] : $read[1]);
    }

    public static function isForeign(?string $namespace): bool
    {
        return $namespace !== null && ! in_array($namespace, ['', PlanXmlWriter::NAMESPACE, 'http://www.w3.org/2000/xmlns/',
            'http://www.w3.org/2001/XMLSchema-instance'], true);
    }

    /**
     * @param  list<array{string, string, string, string}>  $attributes
     * @param  list<string>  $elements
     */
    private static function written(XMLWriter $xml, array $attributes, array $elements): void
    {
        $prefixes = [];
        foreach ($attributes as [$prefix, $name, $namespace, $value]) {
            $isXml = $namespace === 'http://www.w3.org/XML/1998/namespace';
            $prefix = $isXml ? 'xml' : ($prefixes[$namespace] ?? ($prefix === '' || in_array($prefix, $prefixes, true)
                ? 'n'.count($prefixes) : $prefix));
            $xml->writeAttributeNs($prefix, $name, $isXml || isset($prefixes[$namespace]) ? null : $namespace, $value);
            $prefixes[$namespace] = $prefix;
        }
        foreach ($elements as $element) {
            $xml->writeRaw($element);
        }
    }
}

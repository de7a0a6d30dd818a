<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use DOMDocument;
use DOMElement;
use DOMXPath;

/**
 * White space in attributes as the schema says: kept in texts, collapsed in everything else (XML Schema Part 2, section 4.3.6), so that
 * `" true "` is true.
 */
final class WhiteSpace
{
    /** @var array<string, array<string, true>>|null element => attributes in which it is collapsed */
    private static ?array $collapsed = null;

    /**
     * @param  array<string, string>  $attributes
     * @return array<string, string>
     */
    public static function read(string $element, array $attributes): array
    {
        self::$collapsed ??= self::collapsed();
        foreach (self::$collapsed[$element] ?? [] as $name => $_) {
            if (isset($attributes[$name]) && strpbrk($attributes[$name], " \t\r\n") !== false) {
                $attributes[$name] = trim((string) preg_replace('/[ \t\r\n]+/', ' ', $attributes[$name]), ' ');
            }
        }

        return $attributes;
    }

    /** @return array<string, array<string, true>> */
    private static function collapsed(): array
    {
        $document = new DOMDocument;
        $document->load(PlanXmlReader::SCHEMA, LIBXML_NONET);
        $schema = new DOMXPath($document);
        $schema->registerNamespace('xs', Reference::XS);
        $list = static function (string $path, ?DOMElement $in = null) use ($schema): array {
            $found = $schema->query($path, $in);

            return array_filter($found === false ? [] : iterator_to_array($found), static fn ($n): bool => $n instanceof DOMElement);
        };
        $collapsed = [];
        foreach ($list('//xs:element[@name]') as $element) {
            $type = $element->getAttribute('type');
            foreach ($type === '' ? $list('xs:complexType/xs:attribute', $element)
                : $list("/xs:schema/xs:complexType[@name='{$type}']/xs:attribute") as $a) {
                $of = $a->getAttribute('type');
                while ($of !== '' && ! str_starts_with($of, 'xs:')) {
                    $of = ($list("/xs:schema/xs:simpleType[@name='{$of}']/xs:restriction")[0] ?? null)?->getAttribute('base') ?? '';
                }
                $of = $of === '' ? ($list('xs:simpleType/xs:restriction', $a)[0] ?? null)?->getAttribute('base') ?? '' : $of;
                $of === 'xs:string' ?: $collapsed[$element->getAttribute('name')][$a->getAttribute('name')] = true;
            }
        }

        return $collapsed;
    }
}

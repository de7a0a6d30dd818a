<?php

declare(strict_types=1);

namespace App\OData;

use XMLWriter;

/** `$metadata` as CSDL XML (OData CSDL XML Representation 4.01). */
final class Metadata
{
    public static function xml(): string
    {
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs('edmx', 'Edmx', 'http://docs.oasis-open.org/odata/ns/edmx');
        $xml->writeAttribute('Version', '4.01');
        self::element($xml, 'edmx:Reference',
            ['Uri' => 'https://docs.oasis-open.org/odata/odata-vocabularies/v4.0/vocabularies/Org.OData.Core.V1.xml'],
            static fn () => self::element($xml, 'edmx:Include', ['Namespace' => 'Org.OData.Core.V1', 'Alias' => 'Core']));
        $xml->startElement('edmx:DataServices');
        $xml->startElementNs(null, 'Schema', 'http://docs.oasis-open.org/odata/ns/edm');
        $xml->writeAttribute('Namespace', Model::NAMESPACE);
        foreach (Model::sets() as $set) {
            self::type($xml, $set);
        }
        self::element($xml, 'EntityContainer', ['Name' => 'Feed'], static function () use ($xml): void {
            foreach (Model::sets() as $set) {
                self::element($xml, 'EntitySet', ['Name' => $set->name, 'EntityType' => Model::NAMESPACE.".{$set->type}"],
                    static function () use ($xml, $set): void {
                        foreach ($set->navigations as $n) {
                            self::element($xml, 'NavigationPropertyBinding', ['Path' => $n->name, 'Target' => $n->target]);
                        }
                    });
            }
        });
        $xml->endElement();
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    private static function type(XMLWriter $xml, EntitySet $set): void
    {
        self::element($xml, 'EntityType', ['Name' => $set->type], static function () use ($xml, $set): void {
            self::element($xml, 'Key', [], static fn () => self::element($xml, 'PropertyRef', ['Name' => 'Id']));
            foreach ($set->properties as $p) {
                self::element($xml, 'Property',
                    ['Name' => $p->name, 'Type' => $p->type->value] + ($p->nullable ? [] : ['Nullable' => 'false'])
                    + match ($p->type) {
                        EdmType::Moment => ['Precision' => '0'],
                        EdmType::Hours => ['Scale' => '4'],
                        default => []
                    }, static fn () => self::description($xml, $p->description));
            }
            foreach ($set->navigations as $n) {
                $target = Model::NAMESPACE.'.'.Model::set($n->target)->type;
                self::element($xml, 'NavigationProperty',
                    ['Name' => $n->name, 'Type' => $n->many ? "Collection({$target})" : $target] + ($n->many ? []
                    : ['Nullable' => 'false']) + ['Partner' => $n->partner],
                    static fn () => $n->many ? null
                        : self::element($xml, 'ReferentialConstraint', ['Property' => $n->ours, 'ReferencedProperty' => $n->theirs]));
            }
            self::description($xml, $set->description);
        });
    }

    private static function description(XMLWriter $xml, string $text): void
    {
        self::element($xml, 'Annotation', ['Term' => 'Core.Description', 'String' => $text]);
    }

    /** @param  array<string, string>  $attributes */
    private static function element(XMLWriter $xml, string $name, array $attributes, ?callable $inside = null): void
    {
        $xml->startElement($name);
        foreach ($attributes as $attribute => $value) {
            $xml->writeAttribute($attribute, $value);
        }
        if ($inside !== null) {
            $inside();
        }
        $xml->endElement();
    }
}

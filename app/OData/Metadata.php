<?php

declare(strict_types=1);

namespace App\OData;

use XMLWriter;

/**
 * `$metadata` (OData CSDL XML and JSON Representations 4.01), with descriptions, units and what the service can do (the vocabularies
 * Core, Capabilities, Measures and Aggregation).
 */
final class Metadata
{
    private const VOCABULARIES = ['Core' => 'Core', 'Capabilities' => 'Capabilities', 'Measures' => 'Measures',
        'Aggregation' => 'Aggregation'];

    private const FUNCTIONS = ['contains', 'endswith', 'startswith', 'matchesPattern', 'indexof', 'length', 'substring', 'concat',
        'tolower', 'toupper', 'trim', 'year', 'month', 'day', 'hour', 'minute', 'second', 'fractionalseconds', 'date', 'time', 'now',
        'mindatetime', 'maxdatetime', 'totalseconds', 'round', 'floor', 'ceiling', 'case'];

    public static function xml(string $version): string
    {
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs('edmx', 'Edmx', 'http://docs.oasis-open.org/odata/ns/edmx');
        $xml->writeAttribute('Version', $version);
        foreach (self::VOCABULARIES as $name => $alias) {
            self::element($xml, 'edmx:Reference', ['Uri' => self::uri($name)], static fn () => self::element($xml, 'edmx:Include',
                ['Namespace' => self::vocabulary($name), 'Alias' => $alias]));
        }
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
                        self::annotations($xml, self::ofSet($set));
                    });
            }
            self::annotations($xml, self::ofService());
        });
        $xml->endElement();
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    public static function json(string $version): string
    {
        $schema = [];
        $feed = ['$Kind' => 'EntityContainer'];
        foreach (Model::sets() as $set) {
            $type = ['$Kind' => 'EntityType', '$Key' => ['Id']];
            foreach ($set->properties as $p) {
                $type[$p->name] = ($p->type === EdmType::Text ? [] : ['$Type' => $p->type->edm()]) + ($p->nullable ? ['$Nullable' => true]
                    : [])
                    + self::facets($p, '$') + self::inJson(self::ofProperty($p));
            }
            $bindings = [];
            foreach ($set->navigations as $n) {
                $bindings[$n->name] = $n->target;
                $type[$n->name] = ['$Kind' => 'NavigationProperty', '$Type' => self::target($n), '$Partner' => $n->partner]
                    + ($n->many ? ['$Collection' => true] : ['$Nullable' => true, '$ReferentialConstraint' => [$n->ours => $n->theirs]]);
            }
            $schema[$set->type] = $type + ['@Core.Description' => $set->description];
            $feed[$set->name] = ['$Collection' => true, '$Type' => Model::NAMESPACE.".{$set->type}",
                '$NavigationPropertyBinding' => $bindings] + self::inJson(self::ofSet($set));
        }
        $references = [];
        foreach (self::VOCABULARIES as $name => $alias) {
            $references[str_replace('.xml', '.json', self::uri($name))] = ['$Include' => [['$Namespace' => self::vocabulary($name),
                '$Alias' => $alias]]];
        }

        return json_encode(['$Version' => $version, '$EntityContainer' => Model::NAMESPACE.'.Feed', '$Reference' => $references,
            Model::NAMESPACE => $schema + ['Feed' => $feed + self::inJson(self::ofService())]],
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRETTY_PRINT);
    }

    private static function type(XMLWriter $xml, EntitySet $set): void
    {
        self::element($xml, 'EntityType', ['Name' => $set->type], static function () use ($xml, $set): void {
            self::element($xml, 'Key', [], static fn () => self::element($xml, 'PropertyRef', ['Name' => 'Id']));
            foreach ($set->properties as $p) {
                self::element($xml, 'Property', ['Name' => $p->name, 'Type' => $p->type->edm()]
                    + ($p->nullable ? [] : ['Nullable' => 'false']) + array_map(strval(...), self::facets($p)),
                    static fn () => self::annotations($xml, self::ofProperty($p)));
            }
            foreach ($set->navigations as $n) {
                self::element($xml, 'NavigationProperty', ['Name' => $n->name,
                    'Type' => $n->many ? 'Collection('.self::target($n).')' : self::target($n), 'Partner' => $n->partner],
                    static fn () => $n->many ? null
                        : self::element($xml, 'ReferentialConstraint', ['Property' => $n->ours, 'ReferencedProperty' => $n->theirs]));
            }
            self::annotations($xml, ['Core.Description' => $set->description]);
        });
    }

    private static function target(Navigation $n): string
    {
        return Model::NAMESPACE.'.'.Model::set($n->target)->type;
    }

    /** @return array<string, int> */
    private static function facets(Property $p, string $sign = ''): array
    {
        return match ($p->type) {
            EdmType::Moment, EdmType::Stamp, EdmType::Span => ["{$sign}Precision" => 0],
            EdmType::Hours => ["{$sign}Precision" => 18, "{$sign}Scale" => 4],
            default => []
        };
    }

    /** @return array<string, mixed> */
    private static function ofProperty(Property $p): array
    {
        return ['Core.Description' => $p->description] + ($p->type === EdmType::Hours ? ['Measures.Unit' => 'h'] : []);
    }

    /** @return array<string, mixed> */
    private static function ofSet(EntitySet $set): array
    {
        return ['Core.Description' => $set->description,
            'Capabilities.ChangeTracking' => ['Supported' => true],
            'Capabilities.SearchRestrictions' => ['Searchable' => true],
            'Capabilities.ExpandRestrictions' => ['Expandable' => true, 'MaxLevels' => Options::DEEPEST],
            'Capabilities.InsertRestrictions' => ['Insertable' => false],
            'Capabilities.UpdateRestrictions' => ['Updatable' => false],
            'Capabilities.DeleteRestrictions' => ['Deletable' => false],
            'Aggregation.ApplySupported' => ['Transformations' => ['filter', 'groupby', 'aggregate']]];
    }

    /** @return array<string, mixed> */
    private static function ofService(): array
    {
        return ['Core.Description' => 'Schedules of an enterprise: dates are those of its wall clock, in its time zone '
                .config()->string('reihe.time_zone').'; money is in '.config()->string('reihe.currency').'.',
            'Capabilities.SupportedFormats' => ['application/json;odata.metadata=minimal', 'application/json;odata.metadata=full',
                'application/json;odata.metadata=none'],
            'Capabilities.FilterFunctions' => self::FUNCTIONS,
            'Capabilities.KeyAsSegmentSupported' => true,
            'Capabilities.BatchSupported' => false,
            'Capabilities.CrossJoinSupported' => false,
            'Capabilities.AsynchronousRequestsSupported' => false,
            'Capabilities.QuerySegmentSupported' => false];
    }

    /**
     * @param  array<string, mixed>  $annotations
     * @return array<string, mixed>
     */
    private static function inJson(array $annotations): array
    {
        $written = [];
        foreach ($annotations as $term => $value) {
            $written["@{$term}"] = $value;
        }

        return $written;
    }

    /** @param  array<string, mixed>  $annotations */
    private static function annotations(XMLWriter $xml, array $annotations): void
    {
        foreach ($annotations as $term => $value) {
            self::annotated($xml, 'Annotation', ['Term' => $term], $value);
        }
    }

    /** @param  array<string, string>  $attributes */
    private static function annotated(XMLWriter $xml, string $element, array $attributes, mixed $value): void
    {
        match (true) {
            is_bool($value) => self::element($xml, $element, $attributes + ['Bool' => $value ? 'true' : 'false']),
            is_int($value) => self::element($xml, $element, $attributes + ['Int' => (string) $value]),
            is_string($value) => self::element($xml, $element, $attributes + ['String' => $value]),
            is_array($value) && array_is_list($value) => self::element($xml, $element, $attributes,
                static fn () => self::element($xml, 'Collection', [], static function () use ($xml, $value): void {
                    foreach ($value as $text) {
                        $xml->writeElement('String', is_string($text) ? $text : '');
                    }
                })),
            is_array($value) => self::element($xml, $element, $attributes,
                static fn () => self::element($xml, 'Record', [], static function () use ($xml, $value): void {
                    foreach ($value as $name => $one) {
                        self::annotated($xml, 'PropertyValue', ['Property' => (string) $name], $one);
                    }
                })),
            default => null,
        };
    }

    private static function vocabulary(string $name): string
    {
        return "Org.OData.{$name}.V1";
    }

    private static function uri(string $name): string
    {
        return "https://docs.oasis-open.org/odata/odata-vocabularies/v4.0/vocabularies/Org.OData.{$name}.V1.xml";
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

<?php

declare(strict_types=1);

namespace Reihe\Formats\Outline;

use Reihe\Formats\FormatError;
use Reihe\Formats\Xml;
use XMLReader;
use XMLWriter;

/** Outlines as OPML 2.0 (opml.org, “OPML 2.0 specification”): `outline` elements with `text`; our codes stand in `reihe-code`. */
final class Opml
{
    private const MOST = 5000;

    private const DEEPEST = 40;

    /** what the text of an outline may be marked up with */
    private const MARKUP = '#</?(?:a|b|br|code|em|font|i|p|span|strong|u)\b[^<>]*>#i';

    /**
     * @return list<OutlineItem>
     *
     * @throws FormatError with the line
     */
    public static function read(string $xml): array
    {
        $xml = Xml::decoded(self::unicode($xml));
        $root = new OutlineItem('', '');
        Xml::reading(static function () use ($xml, $root): void {
            $reader = new XMLReader;
            $reader->XML($xml, null, LIBXML_NONET);
            $open = [$root];
            $ordinal = $count = 0;
            $isOpml = false;
            while (@$reader->read()) {
                Xml::raise();
                if ($reader->nodeType === XMLReader::ELEMENT) {
                    $ordinal++;
                    $isOpml = $isOpml || $reader->localName === 'opml';
                    if (! $isOpml) {
                        throw new FormatError('is not OPML: the first element is '.$reader->localName, Xml::lineOfElement($xml, $ordinal));
                    }
                    if ($reader->localName === 'outline') {
                        if (++$count > self::MOST || count($open) > self::DEEPEST) {
                            throw new FormatError('has too many outlines, or too deep ones', Xml::lineOfElement($xml, $ordinal));
                        }
                        $text = $reader->getAttribute('text') ?? $reader->getAttribute('title');
                        if ($text === null || trim($text) === '') {
                            throw new FormatError('an outline has no text', Xml::lineOfElement($xml, $ordinal));
                        }
                        $item = new OutlineItem(mb_substr((string) $reader->getAttribute('reihe-code'), 0, 60),
                            mb_substr(trim((string) preg_replace('/\s+/u', ' ', (string) preg_replace(self::MARKUP, '', $text))), 0, 255));
                        $open[count($open) - 1]->children[] = $item;
                        $reader->isEmptyElement ?: $open[] = $item;
                    }
                } elseif ($reader->nodeType === XMLReader::END_ELEMENT && $reader->localName === 'outline') {
                    array_pop($open);
                }
            }
            Xml::raise();
        });

        return $root->children;
    }

    /** Older outlines are often written in Latin-1, and say so. */
    private static function unicode(string $xml): string
    {
        $pattern = '/^(<\?xml[^>]*encoding=["\'])(iso-8859-1|windows-1252|us-ascii)(["\'])/i';

        return preg_match($pattern, $xml, $m) === 1 ? (string) preg_replace($pattern, '$1UTF-8$3', mb_convert_encoding($xml, 'UTF-8',
            strtolower($m[2]) === 'windows-1252' ? 'Windows-1252' : 'ISO-8859-1')) : $xml;
    }

    /** @param  list<OutlineItem>  $items */
    public static function write(array $items, string $title): string
    {
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->setIndentString('  ');
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElement('opml');
        $xml->writeAttribute('version', '2.0');
        $xml->startElement('head');
        $xml->writeElement('title', $title);
        $xml->endElement();
        $xml->startElement('body');
        self::outlines($xml, $items);
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    /** @param  list<OutlineItem>  $items */
    private static function outlines(XMLWriter $xml, array $items): void
    {
        foreach ($items as $item) {
            $xml->startElement('outline');
            $xml->writeAttribute('text', $item->name);
            $item->code === '' ?: $xml->writeAttribute('reihe-code', $item->code);
            self::outlines($xml, $item->children);
            $xml->endElement();
        }
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Formats\FormatError;
use Reihe\Formats\Outline\IndentedText;
use Reihe\Formats\Outline\Opml;
use Reihe\Formats\Outline\OutlineItem;

final class OutlineTest extends TestCase
{
    /** An outline as others write it: D. Winer, “OPML 2.0”, opml.org, section *Examples* (states.opml, shortened from memory). */
    public function test_an_outline_by_somebody_else_is_read(): void
    {
        $items = Opml::read('<?xml version="1.0" encoding="ISO-8859-1"?><opml version="2.0"><head><title>states.opml</title></head><body>'
            .'<outline text="United States"><outline text="Far West"><outline text="Alaska"/><outline text="California"/></outline>'
            .'<outline text="Great &lt;b&gt;Plains&lt;/b&gt;"/></outline></body></opml>');
        self::assertEquals([new OutlineItem('', 'United States', [new OutlineItem('', 'Far West', [new OutlineItem('', 'Alaska'),
            new OutlineItem('', 'California')]), new OutlineItem('', 'Great Plains')])], $items);
    }

    public function test_outlines_come_back_as_they_went_out(): void
    {
        mt_srand(3);
        $make = static function (int $depth) use (&$make): array {
            $items = [];
            for ($n = mt_rand(0, 3); $n > 0; $n--) {
                $items[] = new OutlineItem(['', 'HU', '1.2', 'Z-01'][mt_rand(0, 3)], ['Skrog & <dekk>', 'Ærø “x”', 'Über: alles',
                    'plain'][mt_rand(0, 3)],
                    $depth > 4 ? [] : $make($depth + 1));
            }

            return $items;
        };
        for ($i = 0; $i < 50; $i++) {
            $items = $make(0);
            self::assertEquals($items, Opml::read(Opml::write($items, 'T')));
            $named = json_decode((string) json_encode($items), true);
            $read = IndentedText::read(IndentedText::write($items));
            self::assertSame(str_replace(['Über'], ['U'], (string) json_encode($named)), str_replace(['Über'], ['U'],
                (string) json_encode(json_decode((string) json_encode($read), true))));
        }
        $document = new \DOMDocument;
        self::assertTrue($document->loadXML(Opml::write([new OutlineItem('A', 'B')], 'T')));
        self::assertSame('2.0', $document->documentElement?->getAttribute('version'));
        self::assertSame('B', $document->getElementsByTagName('outline')->item(0)?->attributes?->getNamedItem('text')?->nodeValue);
    }

    public function test_text_is_understood_however_it_is_indented(): void
    {
        self::assertEquals([new OutlineItem('1', 'Hull', [new OutlineItem('1.1', 'Steel', [new OutlineItem('', 'Zone')]),
            new OutlineItem('', 'Paint: two coats')]), new OutlineItem('', 'Trials')],
            IndentedText::read("1: Hull\n  - 1.1\tSteel\n      * Zone\n  - Paint: two coats\n\nTrials\n"));
    }

    /** @return iterable<string, array{string, int}> */
    public static function faults(): iterable
    {
        yield 'not XML' => ['hello', 1];
        yield 'something else' => ["<?xml version=\"1.0\"?>\n<rss/>", 2];
        yield 'no text' => ["<opml version=\"2.0\"><body>\n<outline type=\"x\"/></body></opml>", 2];
        yield 'an entity' => ["<!DOCTYPE a [<!ENTITY b 'c'>]>\n<opml/>", 1];
        yield 'too deep' => ['<opml>'.str_repeat('<outline text="a">', 60).str_repeat('</outline>', 60).'</opml>', 1];
    }

    #[DataProvider('faults')]
    public function test_a_fault_is_named_with_its_line(string $xml, int $line): void
    {
        $this->expectException(FormatError::class);
        try {
            Opml::read($xml);
        } catch (FormatError $e) {
            self::assertSame($line, $e->fileLine, $e->getMessage());
            throw $e;
        }
    }
}

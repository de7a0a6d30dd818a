<?php

declare(strict_types=1);

namespace Reihe\Formats;

/** Safety and line numbers for reading XML. */
final class Xml
{
    /**
     * Refuses what libxml would expand or we could not check byte by byte: document types and exotic encodings.
     *
     * @throws FormatError
     */
    private static function refuseUnsafe(string $xml): void
    {
        if (str_starts_with($xml, "\xFE\xFF") || str_starts_with($xml, "\xFF\xFE")) {
            throw new FormatError('the file must be encoded in UTF-8', 1);
        }
        if (preg_match('/^(?:\xEF\xBB\xBF)?<\?xml[^>]*encoding\s*=\s*["\']([^"\']+)/', $xml, $m) === 1
            && ! in_array(strtolower($m[1]), ['utf-8', 'us-ascii', 'iso-8859-1'], true)) {
            throw new FormatError("encoding {$m[1]} is not accepted, use UTF-8", 1);
        }
        $at = stripos($xml, '<!DOCTYPE');
        if ($at !== false) {
            throw new FormatError('a document type (<!DOCTYPE …>) is not accepted', substr_count($xml, "\n", 0, $at) + 1);
        }
    }

    /**
     * Runs a reader over a document with libxml's complaints kept for {@see raise()}.
     *
     * @param  callable(): void  $read
     *
     * @throws FormatError|\Reihe\Core\CoreException what the reader throws
     */
    public static function reading(string $xml, callable $read): void
    {
        if (trim($xml) === '') {
            throw new FormatError('the file is empty', 1);
        }
        self::refuseUnsafe($xml);
        $errors = libxml_use_internal_errors(true);
        libxml_clear_errors();
        try {
            $read();
        } finally {
            libxml_clear_errors();
            libxml_use_internal_errors($errors);
        }
    }

    /** The line on which the nth element (from 1) begins. */
    public static function lineOfElement(string $xml, int $ordinal): ?int
    {
        $count = 0;
        $line = null;
        $parser = xml_parser_create();
        xml_set_element_handler($parser, static function (\XMLParser $p) use (&$count, &$line, $ordinal): void {
            if (++$count === $ordinal) {
                $line = xml_get_current_line_number($p);
            }
        }, static function (): void {
        });
        xml_parse($parser, $xml, true);
        xml_parser_free($parser);

        return $line;
    }

    /** @throws FormatError when libxml has complained since the last call */
    public static function raise(): void
    {
        $errors = libxml_get_errors();
        libxml_clear_errors();
        if ($errors !== []) {
            $message = preg_replace('/\{urn:[^}]*\}/', '', trim($errors[0]->message)) ?? '';
            throw new FormatError($message, $errors[0]->line);
        }
    }

    private function __construct()
    {
    }
}

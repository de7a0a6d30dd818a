<?php

declare(strict_types=1);

namespace Reihe\Formats;

/** Safety and line numbers for reading XML. */
final class Xml
{
    /** what libxml says of its own limits, in our words */
    private const LIMITS = [
        '/huge text node|xmlSAX2Characters/i' => 'a text of more than 10 million characters',
        '/AttValue length too long|attribute value too long|xmlParseAttValue/i' => 'an attribute of more than 10 million characters',
        '/Excessive depth|nesting/i' => 'elements are nested more than 255 deep',
    ];

    /** identity constraints of plan.xsd, by what they are about */
    private const KEYS = ['activityCode' => 'activity code', 'calendarKey' => 'calendar', 'calendarOfProject' => 'calendar',
        'calendarBase' => 'calendar', 'projectKey' => 'project', 'levelSchemeKey' => 'level scheme',
        'levelSchemeOfProject' => 'level scheme', 'resourceKey' => 'resource', 'calendarOfResource' => 'calendar',
        'codeSetKey' => 'code set', 'ownFieldKey' => 'own field', 'stubCode' => 'stub'];

    /** what attributes name, of the keyrefs of plan.xsd */
    private const NAMED = ['project' => ['calendar' => 'calendar', 'levelScheme' => 'level scheme'], 'calendar' => ['base' => 'calendar'],
        'resource' => ['calendar' => 'calendar']];

    /** elements inside each other; what we write has less than a dozen, and branches and level codes of any use fit in */
    private const DEEPEST = 100;

    /** attributes of one element; what we write has less than fifty */
    private const MOST_ATTRIBUTES = 500;

    /**
     * The document in UTF-8, once it is certain that it is text that we can check: the encoding is decided before
     * anything else is looked at. Document types are refused, since libxml expands them.
     *
     * @throws FormatError
     */
    public static function decoded(string $xml): string
    {
        foreach (["\xFF\xFE" => 'UTF-16LE', "\xFE\xFF" => 'UTF-16BE'] as $mark => $encoding) {
            if (str_starts_with($xml, $mark)) {
                $xml = mb_convert_encoding(substr($xml, 2), 'UTF-8', $encoding);
                $xml = (string) preg_replace('/^(<\?xml[^>]*?)\s+encoding\s*=\s*["\'][^"\']*["\']/', '$1', $xml);
            }
        }
        if (str_starts_with($xml, "\xEF\xBB\xBF")) {
            $xml = substr($xml, 3);
        }
        if (trim($xml) === '') {
            throw new FormatError('the file is empty', 1);
        }
        $nul = strpos($xml, "\0");
        if ($nul !== false || ! mb_check_encoding($xml, 'UTF-8')) {
            throw new FormatError('the file must be encoded in UTF-8, or in UTF-16 with a byte order mark',
                $nul === false ? self::firstBadLine($xml) : substr_count($xml, "\n", 0, $nul) + 1);
        }
        if (preg_match('/^\s*</', $xml) !== 1) {
            throw new FormatError('the file does not begin like XML', 1);
        }
        if (preg_match('/^\s*<\?xml[^>]*encoding\s*=\s*["\']([^"\']+)/', $xml, $m) === 1
            && ! in_array(strtolower($m[1]), ['utf-8', 'us-ascii'], true)) {
            throw new FormatError('encoding '.Text::short($m[1]).' is not accepted, use UTF-8', 1);
        }
        $at = stripos($xml, '<!DOCTYPE');
        if ($at !== false) {
            throw new FormatError('a document type (<!DOCTYPE …>) is not accepted', substr_count($xml, "\n", 0, $at) + 1);
        }
        self::checkAttributes($xml);
        self::checkDepth($xml);

        return $xml;
    }

    /**
     * Each attribute of an element is compared with all others of it.
     *
     * @throws FormatError
     */
    private static function checkAttributes(string $xml): void
    {
        $attribute = '/\G\s++[^\s<>\/"\'=]++\s*+=\s*+(?>"[^"<]*+"|\'[^\'<]*+\')/';
        for ($tag = 0; preg_match('/<[^\s<>\/"\'=]++(?=[^<]{'.(5 * self::MOST_ATTRIBUTES).'})/', $xml, $m, PREG_OFFSET_CAPTURE, $tag) === 1;
            $tag = $at) {
            $at = $m[0][1] + strlen($m[0][0]);
            for ($count = 0; preg_match($attribute, $xml, $one, 0, $at) === 1; $at += strlen($one[0])) {
                if (++$count > self::MOST_ATTRIBUTES) {
                    throw new FormatError('an element has more than '.self::MOST_ATTRIBUTES.' attributes',
                        substr_count($xml, "\n", 0, $m[0][1]) + 1);
                }
            }
        }
    }

    /**
     * Elements inside elements are read and complained about in time that grows with the square of their depth.
     *
     * @throws FormatError
     */
    private static function checkDepth(string $xml): void
    {
        $parser = xml_parser_create('UTF-8');
        $depth = 0;
        xml_set_element_handler($parser, static function (\XMLParser $p) use (&$depth): void {
            if (++$depth > self::DEEPEST) {
                throw new FormatError('there are more than '.self::DEEPEST.' elements inside each other',
                    xml_get_current_line_number($p));
            }
        }, static function () use (&$depth): void {
            $depth--;
        });
        xml_parse($parser, $xml, true); // what is no XML is told with its place later
    }

    /** The first line that is not UTF-8. */
    public static function firstBadLine(string $text): int
    {
        $line = 0;
        foreach (explode("\n", $text) as $line => $part) {
            if (! mb_check_encoding($part, 'UTF-8')) {
                break;
            }
        }

        return $line + 1;
    }

    /**
     * Runs a reader over a document from {@see decoded()} with libxml's complaints kept for {@see raise()}.
     *
     * @param  callable(): void  $read
     *
     * @throws FormatError|\Reihe\Core\CoreException what the reader throws
     */
    public static function reading(callable $read): void
    {
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
            throw new FormatError(self::words($errors[0]), $errors[0]->line);
        }
    }

    /**
     * Everything that a schema has against a document, each thing once.
     *
     * @param  string  $schema  file name
     * @return list<array{line: int, path: string, why: string}>
     */
    public static function complaints(string $xml, string $schema, int $most = 100): array
    {
        $found = [];
        $reader = new \XMLReader;
        $reader->XML($xml, null, LIBXML_NONET);
        $reader->setSchema($schema);
        do {
            $more = @$reader->read();
            foreach (libxml_get_errors() as $error) {
                $why = self::words($error);
                if ($found !== [] && str_contains($why, 'Not all fields of key')) {
                    continue; // an attribute that is missing or wrong was named already
                }
                // a value that breaks a rule is said to break it, and then once more to be of the wrong type
                $about = preg_match("/^(Element '[^']*', attribute '[^']*')/", $why, $m) === 1 ? $m[1] : $why;
                $found["{$error->line} {$about}"] ??= ['line' => $error->line, 'path' => '', 'why' => $why];
            }
            libxml_clear_errors();
        } while ($more && count($found) < $most);
        $found = array_slice(array_values(self::placed($xml, $found)), 0, $most);
        $paths = self::paths($xml, array_column($found, 'line', 'line'));
        foreach ($found as $n => $complaint) {
            $element = preg_match("/^Element '([^']*)'/", $complaint['why'], $m) === 1 ? $m[1] : '';
            $there = $paths[$complaint['line']] ?? [];
            $found[$n]['path'] = $there[$element] ?? (end($there) ?: '');
            // the path says which element
            $found[$n]['why'] = ltrim((string) preg_replace(["/^Element '[^']*'(?:, attribute '([^']*)')?: /", "/\[facet '[^']*'\] /"],
                ['$1: ', ''], $complaint['why']), ': ');
        }

        return $found;
    }

    /**
     * What names something that is not there is found out at the end of the document: it is said where it stands.
     *
     * @param  array<string, array{line: int, path: string, why: string}>  $found
     * @return array<array-key, array{line: int, path: string, why: string}>
     */
    private static function placed(string $xml, array $found): array
    {
        $wanted = [];
        foreach ($found as $i => $complaint) {
            if (preg_match("/^Element '([^']*)': there is no (.*?) (.*) in the file$/", $complaint['why'], $m) === 1) {
                $wanted["{$m[2]} {$m[3]}"] = $i;
            }
        }
        if ($wanted === []) {
            return $found;
        }
        $lines = [];
        $parser = xml_parser_create();
        xml_parser_set_option($parser, XML_OPTION_CASE_FOLDING, 0);
        xml_set_element_handler($parser, static function (\XMLParser $p, string $name, array $a) use (&$lines, $wanted): void {
            foreach (self::NAMED[$name] ?? [] as $attribute => $noun) {
                $value = is_string($a[$attribute] ?? null) ? $a[$attribute] : '';
                if (isset($wanted["{$noun} {$value}"])) {
                    $lines[] = ['line' => xml_get_current_line_number($p), 'path' => '',
                        'why' => "Element '{$name}', attribute '{$attribute}': there is no {$noun} {$value} in the file"];
                }
            }
        }, static function (): void {
        });
        xml_parse($parser, $xml, true);
        xml_parser_free($parser);
        $all = [...array_diff_key($found, array_flip($wanted)), ...$lines];
        usort($all, static fn (array $a, array $b): int => $a['line'] <=> $b['line']);

        return $all;
    }

    /**
     * Where elements stand that begin on some lines; where none does, the one that was open.
     *
     * @param  array<int, int>  $lines
     * @return array<int, array<string, string>> line => name of the element => path to it
     */
    private static function paths(string $xml, array $lines): array
    {
        $paths = $open = [];
        $parser = xml_parser_create();
        xml_parser_set_option($parser, XML_OPTION_CASE_FOLDING, 0);
        xml_set_element_handler($parser, static function (\XMLParser $p, string $name, array $a) use (&$paths, &$open, $lines): void {
            $called = $a['key'] ?? $a['code'] ?? '';
            $open[] = $name.(is_string($called) && $called !== '' ? ' '.Text::short($called, 60) : '');
            $line = xml_get_current_line_number($p);
            if (isset($lines[$line])) {
                $paths[$line][$name] = implode('/', $open);
            }
        }, static function () use (&$open): void {
            array_pop($open);
        });
        xml_parse($parser, $xml, true);
        xml_parser_free($parser);

        return $paths;
    }

    private static function words(\LibXMLError $error): string
    {
        $message = preg_replace('/\{urn:[^}]*\}/', '', trim($error->message)) ?? '';
        foreach (self::LIMITS as $pattern => $words) {
            $message = preg_match($pattern, $message) === 1 ? $words : $message;
        }

        // what the constraints of plan.xsd hold together
        if (preg_match("/Duplicate key-sequence \[(.*)\] in key identity-constraint '(?:\{[^}]*\})?(\w+)'/", $message, $m) === 1) {
            $message = preg_replace('/Duplicate .*$/', '', $message).(self::KEYS[$m[2]] ?? 'key').' '.self::unquoted($m[1])
                .' is given twice';
        } elseif (preg_match("/No match found for key-sequence \[(.*)\] of keyref '(?:\{[^}]*\})?(\w+)'/", $message, $m) === 1) {
            $message = preg_replace('/No match .*$/', '', $message).'there is no '.(self::KEYS[$m[2]] ?? 'object').' '.self::unquoted($m[1])
                .' in the file';
        }

        return Text::short(mb_scrub($message, 'UTF-8'), 300);
    }

    private static function unquoted(string $sequence): string
    {
        return str_replace(["', '", "'"], [' ', ''], $sequence);
    }

    private function __construct()
    {
    }
}

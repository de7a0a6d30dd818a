<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\ODataError;

/** Words of an expression (URL Conventions 4.01, section 5.1.1; ABNF 4.01, section 7), each with its position from 1. */
final class Lexer
{
    private const KINDS = ['duration', 'string', 'moment', 'date', 'clock', 'number', 'alias', 'word', 'sign'];

    // a plus that came as a blank, as forms write it, is known from where it stands
    private const PATTERN = '/\G(?:(?<space>\s+)|(?<duration>duration\'[^\']*\')|(?<string>\'(?:[^\']|\'\')*\')'
        .'|(?<moment>\d{4}-\d\d-\d\dT\d\d:\d\d(?::\d\d(?:\.\d{1,12})?)?(?:Z|[+\- ]\d\d:\d\d)?)|(?<date>\d{4}-\d\d-\d\d)'
        .'|(?<clock>\d\d:\d\d(?::\d\d(?:\.\d{1,12})?)?)|(?<number>-?\d+(?:\.\d+)?(?:e[+-]?\d+)?)|(?<alias>@\w+)|(?<word>\$?[a-z_]\w*)'
        .'|(?<sign>[(),\/:=*-]))/iu';

    /**
     * @param  string  $option  that the text stands in, for errors
     * @return list<array{string, string, int}> kind, text, position
     *
     * @throws ODataError
     */
    public static function tokens(string $text, string $option): array
    {
        $tokens = [];
        for ($offset = 0; $offset < strlen($text); $offset += strlen($m[0])) {
            if (preg_match(self::PATTERN, $text, $m, 0, $offset) !== 1) {
                throw self::error($option, $offset + 1, 'cannot be read');
            }
            foreach (self::KINDS as $kind) {
                if (($m[$kind] ?? '') !== '') {
                    $tokens[] = [$kind, $m[$kind], $offset + 1];

                    break;
                }
            }
        }

        return $tokens;
    }

    public static function error(string $option, int $at, string $why, int $status = 400): ODataError
    {
        return new ODataError($status, "{$option}, position {$at}: {$why}.", $option);
    }
}

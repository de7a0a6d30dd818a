<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use Random\Randomizer;

/** Files with something wrong in them. */
final class Mutations
{
    /** inserted here and there */
    private const ODD = ["\0", "\xFF", "\xC3", "\u{FFFE}", '<', '>', '&', '"', "\n", "\r\n", ' ', '9999999999999999999999', '-1', '1E400',
        'P99999999999999999999999W', 'é', '🚢', '<!DOCTYPE a>', ']]>', '<!--', 'BEGIN:VALARM', 'END:VTODO',
        'RELATED-TO;RELTYPE=FINISHTOSTART:x', 'DTSTART:99999999T999999', 'uid="1"', 'uid=""', ' duration="x"', 'X-REIHE-KIND:wbs',
        ';VALUE=UID', ':', ';', 'RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30',
        'RRULE:FREQ=SECONDLY', 'RRULE:FREQ=DAILY;X', 'RRULE:;=;FREQ', ';BYDAY', 'EXDATE;TZID=X:1/2'];

    /** One thing is inserted, left out, exchanged, cut off or said twice. */
    public static function mutate(string $file, Randomizer $random): string
    {
        $at = $random->getInt(0, max(0, strlen($file) - 1));
        $length = $random->getInt(1, 40);
        $lines = explode("\n", $file);
        $line = $random->getInt(0, count($lines) - 1);

        return match ($random->getInt(0, 7)) {
            0 => substr_replace($file, self::ODD[$random->getInt(0, count(self::ODD) - 1)], $at, 0),
            1 => substr_replace($file, '', $at, $length),
            2 => substr_replace($file, chr($random->getInt(0, 255)), $at, 1),
            3 => substr_replace($file, substr($file, $random->getInt(0, max(0, strlen($file) - 1)), $length), $at, 0),
            4 => substr($file, 0, $at),
            5 => implode("\n", [...array_slice($lines, 0, $line), self::ODD[$random->getInt(0, count(self::ODD) - 1)],
                ...array_slice($lines, $line)]),
            6 => implode("\n", [...array_slice($lines, 0, $line), $lines[$line], ...array_slice($lines, $line)]),
            default => (string) preg_replace('/\d+/', self::ODD[$random->getInt(0, count(self::ODD) - 1)], $file,
                1 + $random->getInt(0, 3)),
        };
    }

    /** One value of the file stands where another of its kind stood: it may well be read, and say something else. */
    public static function said(string $file, Randomizer $random): string
    {
        $values = in_array($file[0] ?? '', ['<', '['], true) ? '/(?<=[">])[^"<>=]{1,60}(?=["<])/' : '/[\w.-]{2,}/';
        preg_match_all($values, $file, $words, PREG_OFFSET_CAPTURE);
        $kind = static fn (string $word): string => (string) preg_replace(['/\d/', '/[a-z]+/i'], ['0', 'a'], $word);
        for ($try = 0; $try < 50; $try++) {
            [$word, $at] = $words[0][$random->getInt(0, count($words[0]) - 1)];
            [$other] = $words[0][$random->getInt(0, count($words[0]) - 1)];
            if ($word !== $other && ($kind($word) === $kind($other) || ($try > 40 && is_numeric($word) === is_numeric($other)))) {
                return substr_replace($file, $other, $at, strlen($word));
            }
        }

        return $file;
    }
}

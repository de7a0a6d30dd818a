<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/** Durations and lags as people write them: `5d`, `3.5 days`, `40h`, `2w`, `90 min`, `1d 4h`, `~5`, a plain number. */
final readonly class TypedSpan
{
    private const PATTERN = '/(\d+(?:\.\d+)?)\s*(weeks?|wks?|w|days?|d|hours?|hrs?|h|minutes?|mins?|m|)(?![a-z])/';

    /** @param  int  $minutes  of working time, negative for a lead */
    private function __construct(public int $minutes, public bool $estimate)
    {
    }

    /**
     * @param  int  $day  minutes of a working day
     * @param  string  $unit  of a plain number: d, h or w
     * @return self|null to the nearest minute (spreadsheets say 2.33 d); null where it is none
     */
    public static function read(string $text, int $day, string $unit = 'd'): ?self
    {
        $plain = str_replace([',', '−', '–'], ['.', '-', '-'], mb_strtolower(trim($text)));
        $estimate = preg_match('/^[~≈]|\?$/u', $plain) === 1;
        $plain = trim((string) preg_replace('/^[~≈]\s*|\s*\?$/u', '', $plain));
        $sign = str_starts_with($plain, '-') ? -1 : 1;
        $body = trim(ltrim($plain, '+-'));
        $whole = (string) preg_replace(self::PATTERN, '', $body, -1, $count);
        if ($count === 0 || trim($whole) !== '') {
            return null;
        }
        preg_match_all(self::PATTERN, $body, $parts, PREG_SET_ORDER);
        $minutes = 0.0;
        foreach ($parts as [, $amount, $name]) {
            $minutes += (float) $amount * match (($name !== '' ? $name : $unit)[0]) {
                'w' => 5 * $day,
                'h' => 60,
                'm' => 1,
                default => $day,
            };
        }

        return $minutes > 60_000_000 || ($minutes > 0 && $minutes < 0.5) ? null : new self($sign * (int) round($minutes), $estimate);
    }

    /** Minutes as days, where these are quarters, else as hours or minutes. */
    public static function shown(int $minutes, int $day): string
    {
        $days = $minutes / $day;

        return fmod($days * 4, 1.0) === 0.0 ? "{$days} d" : ($minutes % 60 === 0 ? intdiv($minutes, 60).' h' : "{$minutes} m");
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/** Durations and lags as people write them: `5d`, `3.5 days`, `40h`, `2w`, `90 min`, `1d 4h`, `~5`, a plain number. */
final readonly class TypedSpan
{
    /** one amount; digits may stand in groups of three */
    private const PATTERN = '/\G\s*(\d+(?:[.,]\d+)*(?:[ \x{a0}\x{202f}\x{2009}’\']\d{3}(?!\d))*(?:[.,]\d+)?)\s*(\p{L}*)/u';

    /** units as people write them, the longest first: their sizes follow each other in what is typed */
    private const UNITS = ['w' => '/^(?:w|wks?|weeks?|wochen?|sem|semaines?)$/D', 'd' => '/^(?:d|days?|t|tage?|tg|j|jours?)$/D',
        'h' => '/^(?:h|hrs?|hours?|std|stunden?|heures?)$/D', 'm' => '/^(?:m|mins?|minutes?|minuten?)$/D'];

    /** @param  int  $minutes  of working time, negative for a lead */
    private function __construct(public int $minutes, public bool $estimate)
    {
    }

    /**
     * @param  int  $day  minutes of a working day
     * @param  string  $unit  of a plain number: d, h or w
     * @param  NumberFormat|null  $format  of numbers, where it is known
     * @return self|null to the nearest minute (spreadsheets say 2.33 d); null where it is none, or might be two numbers
     */
    public static function read(string $text, int $day, string $unit = 'd', ?NumberFormat $format = null): ?self
    {
        $plain = str_replace(['−', '–'], '-', mb_strtolower(trim($text)));
        $estimate = preg_match('/^[~≈]|\?$/u', $plain) === 1;
        $plain = trim((string) preg_replace('/^[~≈]\s*|\s*\?$/u', '', $plain));
        $sign = str_starts_with($plain, '-') ? -1 : 1;
        $body = trim(ltrim($plain, '+-'));
        if (preg_match_all(self::PATTERN, $body, $parts, PREG_SET_ORDER) < 1 || implode('', array_column($parts, 0)) !== $body) {
            return null;
        }
        $minutes = 0.0;
        $last = -1;
        foreach ($parts as [, $amount, $name]) {
            $of = $name === '' && count($parts) === 1 ? $unit : self::unit($name);
            $number = NumberFormat::number($amount, $format ?? (preg_match('/^\d{1,3}[.,]\d{3}$/D', $amount) === 1 ? null
                : NumberFormat::of([$amount])));
            $place = array_search($of, array_keys(self::UNITS), true);
            if ($number === null || ! is_int($place) || $place <= $last) {
                return null; // two numbers side by side, `3 5d`, are no sum
            }
            $last = $place;
            $minutes += (float) $number * match ($of) {
                'w' => 5 * $day,
                'h' => 60,
                'm' => 1,
                default => $day,
            };
        }

        return $minutes > 60_000_000 || ($minutes > 0 && $minutes < 0.5) ? null : new self($sign * (int) round($minutes), $estimate);
    }

    private static function unit(string $name): ?string
    {
        foreach (self::UNITS as $unit => $pattern) {
            if (preg_match($pattern, $name) === 1) {
                return $unit;
            }
        }

        return null;
    }

    /** Minutes as days, where these are quarters, else as hours or minutes. */
    public static function shown(int $minutes, int $day): string
    {
        $days = $minutes / $day;

        return fmod($days * 4, 1.0) === 0.0 ? "{$days} d" : ($minutes % 60 === 0 ? intdiv($minutes, 60).' h' : "{$minutes} m");
    }
}

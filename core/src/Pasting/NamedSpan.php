<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/** Names of lists that end with how long the work takes: `Route survey 5d`, `Trenching (2 weeks)`, `Cure – ~28 days`. */
final readonly class NamedSpan
{
    /** units that nothing else is called by: not metres, tonnes or years */
    private const UNITS = 'd|days?|w|wks?|weeks?|h|hrs?|hours?|tage?|std|stunden?|wochen?|jours?|heures?|semaines?';

    private const SPAN = '[~≈]?\s*\d+(?:[.,]\d+)?\s*(?:'.self::UNITS.')\s*\??';

    private const PATTERN = '/^(?<name>.*\S)(?|\s*\(\s*(?<span>'.self::SPAN.')\s*\)|\s*\[\s*(?<span>'.self::SPAN
        .')\s*\]|[\s:;,–—-]+(?<span>'.self::SPAN.'))$/iuJD';

    private function __construct(public string $name, public string $span)
    {
    }

    /** Null where the name says no such thing, or nothing else; what is not in brackets needs a blank before it. */
    public static function of(string $text): ?self
    {
        return preg_match(self::PATTERN, trim($text), $m) === 1 && preg_match('/\p{L}/u', $m['name']) === 1
            ? new self(rtrim($m['name'], ' :;,–—-'), $m['span']) : null;
    }
}

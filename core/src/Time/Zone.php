<?php

declare(strict_types=1);

namespace Reihe\Core\Time;

use DateTimeImmutable;
use DateTimeZone;

/**
 * The time zone of an enterprise: wall-clock moments ({@see Instant}) beside the UTC that other systems speak. A moment that the
 * clock skips in spring is read as the one an hour later; of the hour that comes twice in autumn it is the first.
 */
final class Zone
{
    private readonly DateTimeZone $zone;

    private readonly bool $isUtc;

    /** @var array<int, int> wall-clock hour since 2000 => minutes that it is ahead of UTC */
    private array $ahead = [];

    /** @param  string  $name  of the IANA time zone database, like `Europe/Oslo` */
    public function __construct(public readonly string $name)
    {
        $this->zone = new DateTimeZone($name);
        $this->isUtc = $name === 'UTC';
    }

    public static function isKnown(string $name): bool
    {
        return in_array($name, DateTimeZone::listIdentifiers(), true);
    }

    /** Minutes that this wall-clock moment is ahead of UTC. */
    public function ahead(int $wall): int
    {
        if ($this->isUtc) {
            return 0;
        }
        $hour = intdiv($wall - ($wall < 0 ? 59 : 0), 60);

        return $this->ahead[$hour] ??= $hour * 60 - $this->utc($hour * 60);
    }

    /** Wall-clock moment as minutes since 2000-01-01 in UTC. */
    public function utc(int $wall): int
    {
        return $this->isUtc ? $wall
            : intdiv((new DateTimeImmutable(Instant::format($wall), $this->zone))->getTimestamp() - 946_684_800, 60);
    }

    /** Minutes since 2000-01-01 in UTC as wall-clock moment. */
    public function wall(int $utc): int
    {
        return $this->isUtc ? $utc
            : $utc + intdiv($this->zone->getOffset(new DateTimeImmutable('@'.($utc * 60 + 946_684_800))), 60);
    }

    /** `2026-03-27T08:00:00+01:00`, with `Z` in UTC. */
    public function format(int $wall): string
    {
        $ahead = $this->ahead($wall);

        return Instant::format($wall).':00'.($ahead === 0 ? 'Z'
            : sprintf('%s%02d:%02d', $ahead < 0 ? '-' : '+', intdiv(abs($ahead), 60), abs($ahead) % 60));
    }
}

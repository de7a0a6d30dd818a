<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use DateTimeImmutable;
use DateTimeZone;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Sabre\VObject\Component;
use Sabre\VObject\Component\VCalendar;
use Sabre\VObject\Property;
use Sabre\VObject\TimeZoneUtil;

/** Dates and date-times of RFC 5545, sections 3.3.4 and 3.3.5, on the wall clock of the enterprise. */
final class Moments
{
    /** dates that named another time than the enterprise's wall clock */
    public int $converted = 0;

    /** @var array<string, true> names of time zones that nobody knows, read as the wall clock */
    public array $unknown = [];

    /** @var array<string, DateTimeZone|null> */
    private array $zones = [];

    /** @var array<string, ZoneRules|null> */
    private array $rules = [];

    /** @param  VCalendar|null  $calendar  that describes its time zones (VTIMEZONE) */
    public function __construct(public readonly Zone $zone, private readonly ?VCalendar $calendar = null)
    {
    }

    /**
     * @param  string|null  $tzid  time zone that the property names
     * @param  bool  $isStamp  always in UTC, so that it need not be said
     * @return array{int, bool} moment, whole day; seconds are dropped
     */
    public function read(string $text, ?string $tzid = null, bool $isStamp = false): array
    {
        if (preg_match('/^(\d{4})-?(\d\d)-?(\d\d)(?:T(\d\d):?(\d\d)(?::?\d\d)?(Z?))?$/D', trim($text), $m) !== 1) {
            throw new FormatError('“'.Text::short($text).'” is not a date');
        }
        $moment = Instant::parse("{$m[1]}-{$m[2]}-{$m[3]}T".($m[4] ?? '00').':'.($m[5] ?? '00'));
        if (! isset($m[4])) {
            return [$moment, true];
        }
        $rules = ($m[6] ?? '') === 'Z' || $tzid === null ? null : $this->described($tzid);
        if ($rules !== null) {
            $wall = $this->zone->wall($rules->utc($moment));
            $this->converted += $isStamp || $wall === $moment ? 0 : 1;

            return [$wall, false];
        }
        $from = ($m[6] ?? '') === 'Z' ? new DateTimeZone('UTC') : $this->named($tzid);
        if ($from === null || $from->getName() === $this->zone->name) {
            return [$moment, false];
        }
        $this->converted += $isStamp ? 0 : 1;
        $utc = intdiv((new DateTimeImmutable(Instant::format($moment), $from))->getTimestamp() - 946_684_800, 60);

        return [$this->zone->wall($utc), false];
    }

    /** `20260327T070000Z` of a moment of the wall clock. */
    public function utc(int $moment): string
    {
        return str_replace(['-', ':'], '', Instant::format($this->zone->utc($moment))).'00Z';
    }

    /** The zone as the file itself describes it. */
    private function described(string $tzid): ?ZoneRules
    {
        if (! array_key_exists($tzid, $this->rules)) {
            $found = null;
            foreach ($this->calendar?->select('VTIMEZONE') ?? [] as $zone) {
                $name = $zone instanceof Component ? $zone->select('TZID')[0] ?? null : null;
                $found = $zone instanceof Component && $name instanceof Property && Components::value($name) === $tzid
                    ? ZoneRules::of($zone) ?? $found : $found;
            }
            $this->rules[$tzid] = $found;
        }

        return $this->rules[$tzid];
    }

    private function named(?string $tzid): ?DateTimeZone
    {
        if ($tzid === null || $tzid === '') {
            return null;
        }
        if (! array_key_exists($tzid, $this->zones)) {
            try {
                $this->zones[$tzid] = TimeZoneUtil::getTimeZone($tzid, $this->calendar, true);
            } catch (\Exception) { // the library has no exception of its own
                $this->zones[$tzid] = null;
                $this->unknown[Text::short($tzid, 40)] = true;
            }
        }

        return $this->zones[$tzid];
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Sabre\VObject\Component;
use Sabre\VObject\Property;

/** A time zone as a file describes it (VTIMEZONE, RFC 5545, section 3.6.5): which offset from UTC holds when. */
final class ZoneRules
{
    /** occurrences of one rule: a hundred years of them */
    private const MOST = 250;

    /** @var array<int, int> wall-clock moment from which it holds => minutes ahead of UTC */
    private array $ahead = [];

    private int $before = 0;

    private function __construct()
    {
    }

    /** @return self|null null where it says nothing that can be used */
    public static function of(Component $zone): ?self
    {
        $self = new self;
        $first = PHP_INT_MAX;
        foreach (Components::of($zone) as $part) {
            if (! $part instanceof Component || ! in_array($part->name, ['STANDARD', 'DAYLIGHT'], true)) {
                continue;
            }
            $to = self::offset(self::value($part, 'TZOFFSETTO'));
            $from = self::offset(self::value($part, 'TZOFFSETFROM'));
            $onsets = $to === null ? [] : self::onsets($part);
            foreach ($onsets as $at) {
                $self->ahead[$at] = (int) $to;
            }
            if ($onsets !== [] && min($onsets) < $first) {
                [$first, $self->before] = [min($onsets), $from ?? (int) $to];
            }
        }
        ksort($self->ahead);

        return $self->ahead === [] ? null : $self;
    }

    /** Minutes since 2000-01-01 in UTC of a moment of the zone’s wall clock. */
    public function utc(int $wall): int
    {
        $ahead = $this->before;
        foreach ($this->ahead as $at => $now) {
            if ($at > $wall) {
                break;
            }
            $ahead = $now;
        }

        return $wall - $ahead;
    }

    /** @return list<int> moments of the wall clock at which the part begins to hold */
    private static function onsets(Component $part): array
    {
        if (preg_match('/^(\d{4})(\d{4}T\d{4})/', str_replace(['-', ':'], '', self::value($part, 'DTSTART')), $m) !== 1) {
            return [];
        }
        $moment = static fn (string $text): int => preg_match('/^(\d{4})-?(\d\d)-?(\d\d)(?:T(\d\d):?(\d\d))?/', $text, $t) === 1
            ? Instant::parse("{$t[1]}-{$t[2]}-{$t[3]}T".($t[4] ?? '00').':'.($t[5] ?? '00'))
            : throw new FormatError('is not a date');
        $rule = self::value($part, 'RRULE');
        try {
            if ((int) $m[1] < 1990) { // before anything that a plan knows: what holds always, or the rule from then on
                if ($rule === '') {
                    return [Instant::MIN];
                }
                $m[1] = '1990';
            }
            $start = $moment("{$m[1]}{$m[2]}");
            $found = $rule === '' ? [$start] : Recurrence::of($start, $rule, 366 * 111, self::MOST, $moment);
            foreach ($part->select('RDATE') as $more) {
                foreach ($more instanceof Property ? explode(',', Components::value($more)) : [] as $text) {
                    $found[] = $moment(trim($text));
                }
            }

            return $found;
        } catch (CoreException|FormatError) {
            return [];
        }
    }

    private static function offset(string $text): ?int
    {
        return preg_match('/^([+-])(\d\d):?(\d\d)/', $text, $m) === 1 ? ($m[1] === '-' ? -1 : 1) * ((int) $m[2] * 60 + (int) $m[3]) : null;
    }

    private static function value(Component $part, string $name): string
    {
        $property = $part->{$name};

        return $property instanceof Property ? trim(Components::raw($property)) : '';
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Sabre\VObject\Component;
use Sabre\VObject\Component\VCalendar;

/** Gathers the components of a calendar: to-dos, appointments when they are asked for, time zones, series with their exceptions. */
final class Gathered
{
    /** occurrences in a file */
    private const MOST = 20_000;

    private Moments $moments;

    private readonly VCalendar $zones;

    /** @var list<array{Todo, string}> series with their rules */
    private array $series = [];

    /** @var array<string, array<int, true>> uid => occurrences that have a component of their own */
    private array $instead = [];

    private int $others = 0;

    private int $events = 0;

    public function __construct(private readonly Todos $todos, Zone $zone, private readonly bool $withEvents)
    {
        $this->zones = new VCalendar([], false);
        $this->moments = new Moments($zone, $this->zones);
    }

    /** Is a component of this name looked at? Others are counted. */
    public function wants(string $name): bool
    {
        if (in_array($name, ['VTODO', 'VTIMEZONE'], true) || ($name === 'VEVENT' && $this->withEvents)) {
            return true;
        }
        $name === 'VEVENT' ? $this->events++ : $this->others++;

        return false;
    }

    public function add(Component $component, VCalendar $of): void
    {
        if ($component->name === 'VTIMEZONE') {
            $of->remove($component);
            $this->zones->add($component);

            return;
        }
        $this->todo(...Components::todo($component, $this->todos, $this->moments));
    }

    public function todo(Todo $todo, ?string $rule): void
    {
        if ($todo->isEvent && $todo->start !== null && $todo->due === null && $todo->duration === null && $todo->allDay) {
            $todo->due = $todo->start + 1440; // RFC 5545, section 3.6.1: a day without an end is one day
        }
        if ($todo->instead !== null) {
            $this->instead[$todo->uid][$todo->instead] = true;
            $todo->uid = Series::uid($todo->uid, $todo->instead);
        }
        if ($rule === null) {
            $this->todos->items[] = $todo;
        } else {
            $this->series[] = [$todo, $rule];
        }
    }

    public function moments(): Moments
    {
        return $this->moments;
    }

    public function finish(): void
    {
        $todos = $this->todos;
        $single = $cut = 0;
        $isCut = false;
        $before = count($todos->items);
        foreach ($this->series as [$todo, $rule]) {
            if (count($todos->items) - $before > self::MOST) {
                $todos->items[] = $todo;
                $single++;

                continue;
            }
            try {
                array_push($todos->items, ...Series::of($todo, $rule, $this->instead[$todo->uid] ?? [], $this->moments, $isCut));
                $cut += $isCut ? 1 : 0;
            } catch (CoreException|FormatError $e) {
                $todos->items[] = $todo;
                $todos->place = null;
                $todos->refuse('RRULE', $e->getMessage(), $todo->uid);
            }
        }
        if ($this->series !== []) {
            $n = count($this->series);
            $todos->notes[] = Text::counted($n, 'item recurs; its occurrences', 'items recur; their occurrences')
                .' within a year became single ones.';
        }
        $cut === 0 ?: $todos->notes[] = Text::counted($cut, 'of them has', 'of them have').' more than '.Series::MOST
            .' occurrences within a year; the first '.Series::MOST.' were read.';
        if ($single > 0) {
            $todos->notes[] = Text::counted($single, 'of them was', 'of them were').' read once only: there are more than '
                .self::MOST.' occurrences.';
        }
        if ($todos->withoutUid > 0) {
            $todos->notes[] = Text::counted($todos->withoutUid, 'component without UID was given one',
                'components without UID were given one').'.';
        }
        if ($this->moments->converted > 0) {
            $todos->notes[] = Text::counted($this->moments->converted, 'date in another time zone was', 'dates in other time zones were')
                ." converted to {$this->moments->zone->name}.";
        }
        if ($this->moments->unknown !== []) {
            $todos->notes[] = 'Time zones that nobody knows were read as local time: '.implode(', ',
                array_slice(array_keys($this->moments->unknown), 0, 5)).'.';
        }
        $todos->leaveOut('appointment (VEVENT), which is read when that is asked for',
            'appointments (VEVENT), which are read when that is asked for',
            $this->events);
        $todos->leaveOut('component that is no to-do', 'components that are not to-dos', $this->others);
        $todos->leaveOut('alarm', 'alarms', $todos->alarms);
        ['count' => $refused, 'said' => $said, 'line' => $line] = $todos->refused;
        $at = ($line === null ? '' : " on line {$line}").": {$said}";
        $todos->leaveOut("line that cannot be read,{$at}", "lines that cannot be read, the first{$at}", $refused);
        $this->once();
    }

    /** The same component twice, as in several calendars of one file: the later one counts (RFC 5545, section 3.8.7.4). */
    private function once(): void
    {
        $by = [];
        $twice = 0;
        foreach ($this->todos->items as $todo) {
            $before = $by[$todo->uid] ?? null;
            $twice += $before === null ? 0 : 1;
            if ($before === null || $todo->sequence > $before->sequence) {
                $by[$todo->uid] = $todo;
            } elseif ($todo->sequence === $before->sequence) { // nothing says which is right
                $by["{$todo->uid}\0{$twice}"] = $todo;
                $twice--;
            }
        }
        $this->todos->items = array_values($by);
        if ($twice > 0) {
            $this->todos->notes[] = Text::counted($twice, 'component is', 'components are')
                .' in the file in an earlier state too, which was left out.';
        }
    }
}

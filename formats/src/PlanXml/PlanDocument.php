<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\InvalidCalendar;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Core\Schedule\Schedule;
use Reihe\Formats\FormatError;
use Reihe\Formats\Xml;

/** A plan together with where its parts stand in the file. */
final readonly class PlanDocument
{
    /**
     * @param  array<string, int>  $ordinals uid => ordinal of its element
     * @param  array<string, string>  $given  uid => what the file says for it, of everything that has one there
     * @param  Told  $told  what the file says beside the plan, without dates
     * @param  array<string, array{int, int}>  $computed  uid of an activity => early start and finish that the sender computed
     */
    public function __construct(public Plan $plan, private string $xml, private array $ordinals,
        public array $given, public Told $told, public array $computed = [])
    {
    }

    /** Does the plan fit together? @throws FormatError naming the line */
    public function check(): void
    {
        try {
            PlanCheck::of($this->plan);
        } catch (InvalidPlan $e) {
            throw new FormatError($e->getMessage(), $this->lineOf($e->uid));
        }
    }

    /** The schedule of the plan. @throws FormatError naming the line */
    public function schedule(): Schedule
    {
        try {
            return Schedule::of($this->plan);
        } catch (InvalidPlan $e) {
            throw new FormatError($e->getMessage(), $this->lineOf($e->uid));
        } catch (LoopFound $e) {
            throw new FormatError($e->getMessage(), $this->lineOf($e->uids[0]));
        } catch (InvalidCalendar $e) {
            $uid = array_search($e->calendar, array_map(static fn (Calendar $c): string => $c->key, $this->plan->calendars), true);
            throw new FormatError($e->getMessage(), is_string($uid) ? $this->lineOf($uid) : null);
        }
    }

    public function lineOf(string $uid): ?int
    {
        return isset($this->ordinals[$uid]) ? Xml::lineOfElement($this->xml, $this->ordinals[$uid]) : null;
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\DayLengths;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;

/** What rows of a pasted table are called, and the links among them and with what is there; none that would close a loop. */
final class PastedLinks
{
    /** @var list<Operation> */
    public array $operations = [];

    /**
     * @var array<string, array{string, bool, int|null}> what rows are called, in small letters => uid, whether it takes links, and its line
     */
    private array $called = [];

    /** @var array<string, list<string>> uid of an activity => uids of its predecessors */
    private array $before = [];

    /** @var array<string, true> uids of activities that something waits for */
    private array $gives = [];

    /** @var array<string, list<Link>> from and to => links that are there */
    private array $there = [];

    private readonly DayLengths $days;

    private readonly LinkOrder $order;

    /**
     * @param  bool  $merges  links that are there are given what the table says
     */
    public function __construct(Plan $plan, private readonly string $project, private readonly bool $merges = false)
    {
        $this->days = new DayLengths($plan);
        $this->order = new LinkOrder;
        foreach ($plan->activities as $a) {
            if ($a->project === $project) {
                $this->called[mb_strtolower($a->code)] ??= [$a->uid, true, null];
            }
            $this->called[mb_strtolower($plan->label($a->uid))] = [$a->uid, true, null];
        }
        foreach ($plan->links as $link) {
            $this->before[$link->to][] = $link->from;
            $this->gives[$link->from] = true;
            $this->order->add($link->from, $link->to);
            $this->there["{$link->from} {$link->to}"][] = $link;
        }
    }

    /** Is an activity of the project called so? */
    public function isTaken(string $code): bool
    {
        return isset($this->called[mb_strtolower($code)]);
    }

    /** What the table itself says comes before what was there; the first of several rows of one name is meant. */
    public function call(string $name, string $uid, bool $takesLinks, int $line): void
    {
        $this->called["\0".mb_strtolower($name)] ??= [$uid, $takesLinks, $line];
    }

    public function hasPredecessor(string $uid): bool
    {
        return isset($this->before[$uid]);
    }

    public function hasSuccessor(string $uid): bool
    {
        return isset($this->gives[$uid]);
    }

    /**
     * Reads what a row waits for, or gives to; links that are understood are made.
     *
     * @param  string  $uid  of the row
     * @param  callable(string): string  $made  uid of a new link, by what tells it from the others of the row
     */
    public function read(string $text, string $uid, bool $isGiver, string $unit, callable $made): Cell
    {
        $said = $wrong = [];
        foreach (PredecessorList::read($text, $unit) as $i => $p) {
            if (isset($p['wrong'])) {
                $wrong[] = "“{$p['wrong']}” cannot be read";

                continue;
            }
            [$found, $type, $lag] = isset($this->called["\0".mb_strtolower($p['text'])]) || isset($this->called[mb_strtolower($p['text'])])
                ? [$this->known($p['text']), LinkType::FS, ''] : [$this->known($p['ref']), $p['type'], $p['lag']];
            if ($found === null || ! $found[1] || $found[0] === $uid) {
                $wrong[] = $found === null ? "“{$p['ref']}” is no row or activity here" : self::where($p['ref'], $found[2]).' is '
                    .($found[1] ? 'the row itself' : 'a row with others below it, which takes no links');

                continue;
            }
            [$from, $to] = $isGiver ? [$uid, $found[0]] : [$found[0], $uid];
            $day = $this->days->lag($from, $to, $this->measure($from, $to), $this->project);
            $lag = $lag === '' ? 0 : TypedSpan::read($lag, $day, $unit)->minutes ?? 0;
            if (in_array($from, $this->before[$to] ?? [], true)) {
                $this->again("{$from} {$to}", $type, $lag);

                continue;
            }
            if (! $this->order->add($from, $to)) {
                $wrong[] = self::where($p['ref'], $found[2]).' would close a loop; this link is left out';

                continue;
            }
            $this->before[$to][] = $from;
            $this->gives[$from] = true;
            $this->operations[] = Operation::create(EntityKind::Link, $made(($isGiver ? 'g' : '').$i),
                ['from' => $from, 'to' => $to, 'type' => $type->value, 'lag' => $lag]);
            $said[] = $p['ref'].' '.$type->value.($lag === 0 ? '' : ($lag > 0 ? ' + ' : ' − ').TypedSpan::shown(abs($lag), $day));
        }

        return new Cell($text, $said === [] ? null : implode(', ', $said), $wrong === [] ? null : implode('; ', $wrong));
    }

    /** What measures the lag of a link that is there, where there is one only. */
    private function measure(string $from, string $to): ?LagCalendar
    {
        $links = $this->there["{$from} {$to}"] ?? [];

        return count($links) === 1 ? $links[0]->lagCalendar : null;
    }

    /** A link that is there is given the type and lag that the table says, where there is one only. */
    private function again(string $ends, LinkType $type, int $lag): void
    {
        $link = $this->there[$ends][0] ?? null;
        if (! $this->merges || $link === null || count($this->there[$ends]) > 1 || ($link->type === $type && $link->lag === $lag)) {
            return;
        }
        $this->operations[] = Operation::update(EntityKind::Link, $link->uid, ['type' => $type->value, 'lag' => $lag],
            ['type' => $link->type->value, 'lag' => $link->lag]);
    }

    /** What is named, with the line of the text or file that it was found on. */
    private static function where(string $ref, ?int $line): string
    {
        return "“{$ref}”".($line === null ? '' : " (line {$line})");
    }

    /** @return array{string, bool, int|null}|null */
    private function known(string $name): ?array
    {
        $key = mb_strtolower($name);

        return $this->called["\0{$key}"] ?? $this->called[$key] ?? null;
    }
}

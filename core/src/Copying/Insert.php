<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Insertion;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Pair;
use Reihe\Core\Plan\Plan;

/** A fragment put into a project, once or several times, as operations. */
final class Insert
{
    /** @var list<Operation> */
    public array $operations = [];

    /** @var array<string, true> codes of the project, with those that are made */
    private array $codes = [];

    /**
     * @param  Plan  $plan  with the project
     * @param  Plan  $fragment  with the fragment as it goes in
     * @param  string  $uid  of the fragment
     *
     * @throws InvalidField
     */
    public static function of(Plan $plan, Plan $fragment, string $uid, InsertWish $wish): self
    {
        $self = new self;
        if ($wish->wbs !== null && ($plan->wbs[$wish->wbs] ?? null)?->project !== $wish->project) {
            throw new InvalidField('wbs', 'is not a WBS element of the project');
        }
        foreach ($wish->ties as $to) {
            if (! isset($plan->activities[$to])) {
                throw new InvalidField('ties', 'name an activity that does not exist');
            }
        }
        foreach ($plan->activities as $activity) {
            if ($activity->project === $wish->project) {
                $self->codes[$activity->code] = true;
            }
        }
        $position = self::last($plan, $wish);
        for ($n = 1; $n <= $wish->times; $n++) {
            $position = $self->once($plan, $fragment, $uid, $wish, $n, $position);
        }

        return $self;
    }

    private function once(Plan $plan, Plan $fragment, string $uid, InsertWish $wish, int $n, float $position): float
    {
        $source = FragmentDocument::project($fragment, $uid);
        $prefix = str_replace('{n}', (string) $n, $wish->prefix);
        $copy = Copy::of($fragment, new CopyWish([$uid => ['key' => 'F', 'name' => 'F']], '', "{$wish->stem} {$n}",
            $plan->projects[$wish->project]->start));
        $left = [];
        foreach ($copy->operations as $o) {
            $after = $o->after ?? [];
            if ($o->kind === EntityKind::Project || $o->kind->isOnProjectItself($after)) {
                $left[$o->uid] = true; // the fragment itself, and what is said of it

                continue;
            }
            if (array_key_exists('project', $after)) {
                $after['project'] = $wish->project;
            }
            $top = match ($o->kind) {
                EntityKind::Wbs => 'parent',
                EntityKind::Activity => 'wbs',
                default => null,
            };
            if ($top !== null && ($after[$top] ?? null) === null) {
                $after[$top] = $wish->wbs;
                $after['position'] = ++$position;
            }
            if ($o->kind === EntityKind::Activity) {
                $original = $fragment->activities[(string) array_search($o->uid, $copy->made, true)]->code;
                $after['code'] = $this->free(self::prefixed($original, $source->key, $prefix));
            }
            $this->operations[] = $o->kind === EntityKind::OpenEnd && ($tied = $this->tied($o, $copy, $fragment, $wish)) !== null ? $tied
                : Operation::create($o->kind, $o->uid, $after);
        }
        $this->more($copy, $fragment, $wish);
        $pairs = [];
        foreach ($copy->made as $of => $made) {
            isset($left[$made]) ?: $pairs[] = new Pair((string) $of, $made);
        }
        $insertion = new Insertion('i'.substr(hash('sha256', "{$wish->stem} {$n}"), 0, 25), $wish->project, $uid, $source->name,
            $wish->version,
            $prefix, $pairs);
        $this->operations[] = Operation::create(EntityKind::Insertion, $insertion->uid, $insertion->fields());

        return $position;
    }

    private static function prefixed(string $code, string $key, string $prefix): string
    {
        $rest = str_starts_with($code, $key) ? ltrim(substr($code, strlen($key)), '-.') : $code;

        return $prefix.$rest === '' ? $code : $prefix.$rest;
    }

    private function free(string $code): string
    {
        $free = mb_substr($code, 0, 60);
        for ($n = 2; isset($this->codes[$free]); $n++) {
            $free = mb_substr($code, 0, 55)."-{$n}";
        }
        $this->codes[$free] = true;

        return $free;
    }

    /** The link that an open end becomes where something is named for it. */
    private function tied(Operation $o, Copy $copy, Plan $fragment, InsertWish $wish): ?Operation
    {
        $of = array_search($o->uid, $copy->made, true);
        $end = is_string($of) ? $fragment->openEnds[$of] ?? null : null;
        $to = $end === null ? null : $wish->ties[$end->uid] ?? null;
        if ($end === null || $to === null) {
            return null;
        }
        $link = $end->tied($o->uid, $to);
        $fields = $link->fields();
        $field = $link->from === $to ? 'to' : 'from';

        return Operation::create(EntityKind::Link, $o->uid, [$field => $copy->made[$end->activity]] + $fields);
    }

    /** Plain links to activities of the fragment itself, which has no open end there. */
    private function more(Copy $copy, Plan $fragment, InsertWish $wish): void
    {
        foreach ($wish->ties as $at => $to) {
            [$activity, $side] = [...explode(' ', $at, 2), ''];
            if ($side === '' || ! isset($fragment->activities[$activity])) {
                continue;
            }
            [$from, $until] = $side === 'predecessor' ? [$to, $copy->made[$activity]] : [$copy->made[$activity], $to];
            $this->operations[] = Operation::create(EntityKind::Link, 'l'.substr(hash('sha256', "{$from} {$until}"), 0, 25),
                ['from' => $from,
                    'to' => $until, 'type' => 'FS']);
        }
    }

    private static function last(Plan $plan, InsertWish $wish): float
    {
        $last = 0.0;
        foreach ($plan->wbs as $element) {
            $last = $element->project === $wish->project && $element->parent === $wish->wbs ? max($last, $element->position) : $last;
        }
        foreach ($plan->activities as $activity) {
            $last = $activity->project === $wish->project && $activity->wbs === $wish->wbs ? max($last, $activity->position) : $last;
        }

        return $last;
    }
}

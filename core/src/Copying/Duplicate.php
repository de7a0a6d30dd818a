<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Plan;

/** Rows once more, in their own project or another one: with what lies below them and the links among them, without progress. */
final class Duplicate
{
    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<string> uids of the rows that stand where the originals did, in order */
    public array $top = [];

    /** @var array<string, true> codes of the project, with those that are made */
    private array $codes = [];

    private function __construct(private readonly Plan $plan)
    {
    }

    /**
     * @param  Plan  $plan  with both projects
     * @param  list<string>  $wbs  elements with everything below them
     * @param  list<string>  $activities  besides
     * @param  string|null  $parent  element that they go below; null for the top level
     * @param  string|null  $after  row of the same parent that they stand after; null for the end
     * @param  string  $stem  what the new uids follow from
     *
     * @throws InvalidField
     */
    public static function of(Plan $plan, string $from, array $wbs, array $activities, string $to, ?string $parent, ?string $after,
        string $stem): self
    {
        if ($parent !== null && ($plan->wbs[$parent] ?? null)?->project !== $to) {
            throw new InvalidField('wbs', 'is not a WBS element of the project');
        }
        $self = new self($plan);
        foreach ($plan->activities as $activity) {
            $activity->project !== $to ?: $self->codes[$activity->code] = true;
        }
        $part = Extract::of($plan, $from, $wbs, $activities);
        $key = $plan->projects[$to]->key;
        $copy = Copy::of($part, new CopyWish([$from => ['key' => $key, 'name' => $key]], '', $stem,
            handovers: Handovers::Drop));
        $tops = [];
        foreach ([...$part->wbs, ...$part->activities] as $uid => $object) {
            $top = $object->fields()['parent'] ?? $object->fields()['wbs'] ?? null;
            $top !== null ?: $tops[$copy->made[$uid]] = $object->position;
        }
        asort($tops);
        $self->top = array_map(strval(...), array_keys($tops));
        $positions = array_combine($self->top, $self->positions($to, $parent, $after, count($tops)));
        foreach ($copy->operations as $o) {
            $fields = $o->after ?? [];
            if ($o->kind === EntityKind::Project) {
                continue;
            }
            if (array_key_exists('project', $fields)) {
                $fields['project'] = $to;
            }
            if ($o->kind === EntityKind::Activity) {
                $fields['code'] = $self->free(is_string($fields['code'] ?? null) ? $fields['code'] : '');
            }
            if (isset($positions[$o->uid])) {
                $fields[$o->kind === EntityKind::Wbs ? 'parent' : 'wbs'] = $parent;
                $fields['position'] = $positions[$o->uid];
            }
            $self->operations[] = Operation::create($o->kind, $o->uid, $fields);
        }

        return $self;
    }

    /** @return list<float> */
    private function positions(string $project, ?string $parent, ?string $after, int $count): array
    {
        $siblings = [];
        foreach ($this->plan->wbs as $uid => $w) {
            $w->project !== $project || $w->parent !== $parent ?: $siblings[(string) $uid] = $w->position;
        }
        foreach ($this->plan->activities as $uid => $a) {
            $a->project !== $project || $a->wbs !== $parent ?: $siblings[(string) $uid] = $a->position;
        }
        asort($siblings);
        $at = $after === null ? false : array_search($after, array_map(strval(...), array_keys($siblings)), true);
        $list = array_values($siblings);
        $begin = $list === [] ? 0.0 : ($at === false ? $list[count($list) - 1] : $list[$at]);
        $end = $at === false ? null : $list[$at + 1] ?? null;
        $step = $end === null ? 1.0 : ($end - $begin) / ($count + 1);

        return array_map(static fn (int $n): float => $begin + $step * $n, $count === 0 ? [] : range(1, $count));
    }

    private function free(string $code): string
    {
        $free = $code;
        for ($n = 2; isset($this->codes[$free]); $n++) {
            $free = mb_substr($code, 0, 55)."-{$n}";
        }
        $this->codes[$free] = true;

        return $free;
    }
}

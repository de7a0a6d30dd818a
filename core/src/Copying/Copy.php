<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\OpenEnd;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Side;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Time\Instant;

/**
 * Projects copied with everything in them, as operations: into other projects, templates and fragments, and from them. Links among
 * what is copied come along; dates move with the start; nothing of the progress does.
 */
final class Copy
{
    /** @var list<Operation> */
    public array $operations = [];

    /** @var array<string, string> uid of an object => uid of its copy */
    public array $made = [];

    /** @var array<string, string> code of an activity => code of its copy, where it differs */
    public array $codes = [];

    /** @var array<string, DateShift> project uid => how its dates move */
    private array $shifts = [];

    /** @param  array<string, string>  $givers  `KEY/CODE` => uid of activities that open ends may be tied to */
    private function __construct(private readonly Plan $plan, private readonly CopyWish $wish, private readonly array $givers)
    {
    }

    /**
     * @param  Plan  $plan  with the projects, their calendars, and what is linked with them as activities or stubs
     * @param  array<string, string>  $givers
     */
    public static function of(Plan $plan, CopyWish $wish, array $givers = []): self
    {
        $self = new self($plan, $wish, $givers);
        $self->shifts();
        foreach (array_keys($wish->projects) as $uid) {
            $self->project($uid);
        }
        $self->all(EntityKind::Wbs, static fn (WbsElement $w): string => $w->project, $self->wbs(...));
        if ($wish->takes('activities')) {
            $self->all(EntityKind::Activity, static fn (Activity $a): string => $a->project, $self->activity(...));
            $self->standing();
            $self->links();
        }
        $self->coded(EntityKind::Coding, 'codes');
        $self->coded(EntityKind::OwnValue, 'ownValues');

        return $self;
    }

    /** How dates of a project move. */
    public function shift(string $project): DateShift
    {
        return $this->shifts[$project];
    }

    public function uid(string $of): string
    {
        return $this->made[$of] ??= 'c'.substr(hash('sha256', "{$this->wish->stem} {$of}"), 0, 25);
    }

    /** The project of the earliest start begins at the new one, the others as far after it as they did, on their own calendars. */
    private function shifts(): void
    {
        $projects = array_intersect_key($this->plan->projects, $this->wish->projects);
        $earliest = $projects === [] ? 0 : min(array_map(static fn ($p): int => $p->start, $projects));
        foreach ($projects as $uid => $project) {
            $axis = new WorkAxis($this->plan->calendars[$project->calendar], $this->plan->calendars);
            $this->shifts[(string) $uid] = new DateShift($axis, $earliest, $this->wish->start ?? $earliest);
        }
    }

    private function project(string $uid): void
    {
        $project = $this->plan->projects[$uid];
        $deadline = $project->deadline === null || ! $this->wish->takes('deadlines') ? null
            : $this->shifts[$uid]->finish($project->deadline);
        $this->put(EntityKind::Project, $project, ['key' => $this->wish->projects[$uid]['key'],
            'name' => $this->wish->projects[$uid]['name'],
            'branch' => $this->wish->branch, 'start' => Instant::format($this->shifts[$uid]->start($project->start)), 'statusDate' => null,
            'deadline' => Instant::formatOrNull($deadline), 'kept' => $this->wish->kept->value, 'archived' => false,
            'home' => null, 'madeFrom' => $uid, 'colour' => null]);
    }

    private function wbs(WbsElement $element): void
    {
        $this->put(EntityKind::Wbs, $element, ['project' => $this->uid($element->project),
            'parent' => $element->parent === null ? null : $this->uid($element->parent),
            'deadline' => $element->deadline === null || ! $this->wish->takes('deadlines') ? null
                : Instant::format($this->shifts[$element->project]->finish($element->deadline))]);
    }

    private function activity(Activity $activity): void
    {
        $fields = $activity->fields();
        $shift = $this->shifts[$activity->project];
        $key = $this->plan->projects[$activity->project]->key;
        $code = self::renamed($activity->code, $key, $this->wish->projects[$activity->project]['key']);
        if ($code !== $activity->code) {
            $this->codes[$activity->code] = $code;
        }
        /** @var list<array<string, mixed>> $constraints */
        $constraints = $this->wish->takes('constraints') ? $fields['constraints'] : [];
        /** @var list<array<string, mixed>> $checklist */
        $checklist = $fields['checklist'];
        $this->put(EntityKind::Activity, $activity, ['project' => $this->uid($activity->project),
            'wbs' => $activity->wbs === null ? null : $this->uid($activity->wbs), 'code' => $code,
            'constraints' => array_map($shift->constraint(...), $constraints),
            'deadline' => $activity->deadline === null || ! $this->wish->takes('deadlines') ? null
                : Instant::format($shift->finish($activity->deadline)),
            'actualStart' => null, 'actualFinish' => null, 'remaining' => null, 'resume' => null, 'suspend' => null,
            'physicalPercent' => null,
            'checklist' => array_map(static fn (array $item): array => ['done' => false] + $item, $checklist),
            'outsideStart' => null, 'outsideFinish' => null, 'source' => null, 'asOf' => null]);
    }

    /** The key of the project at the beginning of a code becomes that of the copy. */
    public static function renamed(string $code, string $from, string $to): string
    {
        return $from !== '' && str_starts_with($code, $from) && preg_match('/^[A-Z0-9]/', substr($code, strlen($from))) !== 1
            ? mb_substr($to.substr($code, strlen($from)), 0, 60) : $code;
    }

    /**
     * Who gives instead of an activity.
     *
     * @param  string  $label  `KEY/CODE`
     * @param  array<string, string>  $keys  key of its project => key of the one that gives instead
     * @return string `KEY/CODE`
     */
    public static function giver(string $label, array $keys): string
    {
        [$key, $code] = explode('/', $label, 2) + [1 => ''];

        return isset($keys[$key]) ? "{$keys[$key]}/".self::renamed($code, $key, $keys[$key]) : $label;
    }

    /** What stands on activities. */
    private function standing(): void
    {
        foreach ($this->plan->assignments as $assignment) {
            $planned = ($assignment->actualWork ?? 0) + ($assignment->remainingWork ?? 0);
            $isWork = $this->wish->takes('work') && ($assignment->actualWork !== null || $assignment->remainingWork !== null);
            $cost = $this->wish->takes('costs') ? $assignment->cost : null;
            if (isset($this->made[$assignment->activity]) && ($isWork || $cost !== null)) {
                $this->put(EntityKind::Assignment, $assignment, ['activity' => $this->uid($assignment->activity), 'actualWork' => null,
                    'remainingWork' => $isWork ? $planned : null, 'cost' => $cost]);
            }
        }
        foreach ($this->wish->takes('remarks') ? $this->plan->remarks : [] as $remark) {
            if (isset($this->made[$remark->activity])) {
                $this->put(EntityKind::Remark, $remark, ['activity' => $this->uid($remark->activity)]);
            }
        }
        foreach ($this->plan->openEnds as $end) {
            if (isset($this->made[$end->activity])) {
                $this->open($end);
            }
        }
    }

    private function links(): void
    {
        foreach ($this->plan->links as $link) {
            $ends = [isset($this->made[$link->from]), isset($this->made[$link->to])];
            if ($ends === [true, true]) {
                $inside = $this->plan->projectOf($link->from) === $this->plan->projectOf($link->to);
                $agreed = $link->agreed === null || $inside ? null
                    : $this->shifts[(string) $this->plan->projectOf($link->to)]->finish($link->agreed);
                $this->put(EntityKind::Link, $link, ['from' => $this->uid($link->from), 'to' => $this->uid($link->to),
                    'agreed' => Instant::formatOrNull($agreed)]);
            } elseif ($ends !== [false, false]) {
                $this->open($this->openEnd($link, $ends[1]));
            }
        }
    }

    private function openEnd(Link $link, bool $takes): OpenEnd
    {
        [$here, $other] = $takes ? [$link->to, $link->from] : [$link->from, $link->to];

        return new OpenEnd("{$link->uid}:open", $here, $takes ? Side::Predecessor : Side::Successor, $link->type, $link->lag,
            $link->lagCalendar,
            mb_substr($this->plan->label($other), 0, 81), mb_substr($this->plan->name($other), 0, 255), $link->note);
    }

    /** An open end of what is copied: tied where that is wanted and can be, left open, or dropped. */
    private function open(OpenEnd $end): void
    {
        $giver = $this->wish->handovers === Handovers::Tie && $end->side === Side::Predecessor
            ? $this->givers[self::giver($end->label, $this->wish->giverKeys)] ?? null : null;
        if ($giver !== null) {
            $link = $end->tied('-', $giver);
            $this->operations[] = Operation::create(EntityKind::Link, $this->uid($end->uid), ['to' => $this->uid($end->activity)]
                + $link->fields());
        } elseif ($this->wish->handovers !== Handovers::Drop) {
            $this->put(EntityKind::OpenEnd, $end, ['activity' => $this->uid($end->activity)]);
        }
    }

    private function coded(EntityKind $kind, string $part): void
    {
        foreach ($this->wish->takes($part) ? $this->plan->all($kind) : [] as $object) {
            $fields = $object->fields();
            [$project, $activity] = [$fields['project'], $fields['activity']];
            $retired = $object instanceof Coding && ($this->plan->entries[$object->entry]->retired ?? true);
            if (is_string($project) && isset($this->made[$project]) && (! is_string($activity) || isset($this->made[$activity]))
                && ! $retired) {
                $this->put($kind, $object, ['project' => $this->uid($project), 'activity' => is_string($activity) ? $this->uid($activity)
                    : null]);
            }
        }
    }

    /**
     * @template T of Entity
     *
     * @param  callable(T): string  $project
     * @param  callable(T): void  $copy
     */
    private function all(EntityKind $kind, callable $project, callable $copy): void
    {
        foreach ($this->plan->all($kind) as $object) {
            /** @var T $object */
            if (isset($this->wish->projects[$project($object)])) {
                $copy($object);
            }
        }
    }

    /** @param  array<string, mixed>  $other  fields that differ from those of the original */
    private function put(EntityKind $kind, Entity $object, array $other): void
    {
        $fields = array_filter($kind->fields(), static fn ($field): bool => $field->stamp === null);
        $this->operations[] = Operation::create($kind, $this->uid($object->uid()),
            $kind->brief($other + array_intersect_key($object->fields(), $fields)));
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Copying;

use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\Constraint;
use Reihe\Core\Plan\CopyPart;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\OpenEnd;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Side;
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

    /** @var array<string, AssignedWork>|null by activity */
    private ?array $sums = null;

    /** @var array<string, true> activities whose assignments became one */
    private array $summed = [];

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
        foreach (EntityKind::copied() as $kind) {
            foreach ($wish->takes($kind->entry()->part) ? $plan->all($kind) : [] as $object) {
                $self->copy($kind, $object);
            }
        }

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
        $this->put(EntityKind::Project, $project, $uid, ['key' => $this->wish->projects[$uid]['key'],
            'name' => $this->wish->projects[$uid]['name'], 'branch' => $this->wish->branch, 'kept' => $this->wish->kept->value,
            'madeFrom' => $uid]);
    }

    /** An object of a project, where all that it stands on in projects comes along. */
    private function copy(EntityKind $kind, Entity $object): void
    {
        if ($object instanceof Link) {
            $this->link($object);

            return;
        }
        $project = $this->plan->ownerOf($kind, $object->uid());
        $references = $project === null || ! isset($this->wish->projects[$project]) ? null : $this->references($kind, $object);
        if ($project === null || $references === null) {
            return;
        }
        match (true) {
            $object instanceof Activity => $this->put($kind, $object, $project, ['code' => $this->code($object)] + $references),
            $object instanceof Assignment => $this->work($object, $project, $references),
            $object instanceof OpenEnd => $this->open($object),
            $object instanceof Coding && ($this->plan->entries[$object->entry]->retired ?? true) => null,
            default => $this->put($kind, $object, $project, $references),
        };
    }

    /** @return array<string, mixed>|null what it refers to of projects, as it is among the copies; null where some of it is not there */
    private function references(EntityKind $kind, Entity $object): ?array
    {
        $references = [];
        foreach ($kind->entry()->references as $reference) {
            $to = Catalogue::value($object, $reference->field);
            if (is_string($to) && $reference->to->entry()->owner === Owner::Project) {
                if ($reference->to !== $kind && ! isset($this->made[$to])) {
                    return null;
                }
                $references[$reference->field] = $this->uid($to);
            }
        }

        return $references;
    }

    private function code(Activity $activity): string
    {
        $key = $this->plan->projects[$activity->project]->key;
        $code = self::renamed($activity->code, $key, $this->wish->projects[$activity->project]['key']);
        if ($code !== $activity->code) {
            $this->codes[$activity->code] = $code;
        }

        return $code;
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

    /**
     * All of it is to be done again.
     *
     * @param  array<string, mixed>  $references
     */
    private function work(Assignment $assignment, string $project, array $references): void
    {
        $told = $assignment;
        if (! $this->wish->takes(CopyPart::Resources)) { // one without a resource tells of all of them
            if (isset($this->summed[$assignment->activity])) {
                return;
            }
            $this->summed[$assignment->activity] = true;
            $sum = ($this->sums ??= AssignedWork::of($this->plan))[$assignment->activity];
            $told = Assignment::read($assignment->uid, ['activity' => $assignment->activity, 'actualWork' => $sum->actual,
                'remainingWork' => $sum->remaining, 'cost' => $sum->cost]);
        }
        $isWork = $this->wish->takes(CopyPart::Work) && $told->work() !== null;
        if ($isWork || $told->resource !== null || ($told->cost !== null && $this->wish->takes(CopyPart::Costs))) {
            $this->put(EntityKind::Assignment, $told, $project, ['remainingWork' => $isWork ? $told->work() : null] + $references);
        }
    }

    private function link(Link $link): void
    {
        $ends = [isset($this->made[$link->from]), isset($this->made[$link->to])];
        if ($ends === [true, true]) {
            $project = (string) $this->plan->projectOf($link->to);
            $this->put(EntityKind::Link, $link, $project, ['from' => $this->uid($link->from), 'to' => $this->uid($link->to)]
                + ($this->plan->projectOf($link->from) === $project ? ['agreed' => null] : []));
        } elseif ($ends !== [false, false]) {
            $this->open($this->openEnd($link, $ends[1]));
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
            $this->put(EntityKind::OpenEnd, $end, (string) $this->plan->projectOf($end->activity),
                ['activity' => $this->uid($end->activity)]);
        }
    }

    /** @param  array<string, mixed>  $other  fields that differ from those of the original */
    private function put(EntityKind $kind, Entity $object, string $project, array $other): void
    {
        $this->operations[] = Operation::create($kind, $this->uid($object->uid()),
            $kind->brief($other + $this->carried($kind->fields(), $object->fields(), $this->shifts[$project])));
    }

    /**
     * What comes along of some fields: no stamps, nothing that no copy has or this one is not to have; dates as far from the start.
     *
     * @param  array<string, Field>  $fields
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private function carried(array $fields, array $values, DateShift $shift): array
    {
        $carried = [];
        foreach ($fields as $name => $field) {
            $value = $values[$name];
            if ($field->stamp === null) {
                $carried[$name] = match (true) {
                    ! $this->wish->takes($field->part) => $field->empty(),
                    $field->type === FieldType::Items => $this->items($field, $value, $shift),
                    $field->edge !== null && is_string($value) => Instant::format($field->edge === DayEdge::First
                        ? $shift->start(Instant::parse($value)) : $shift->finish(Instant::parse($value))),
                    default => $value,
                };
            }
        }

        return $carried;
    }

    /** @return list<array<string, mixed>> */
    private function items(Field $list, mixed $items, DateShift $shift): array
    {
        $carried = [];
        /** @var list<array<string, mixed>> $items */
        foreach ($items as $item) {
            $carried[] = $list->of === Constraint::class ? $shift->constraint($item) : $this->carried($list->items(), $item, $shift);
        }

        return $carried;
    }
}

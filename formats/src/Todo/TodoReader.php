<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;

/**
 * To-do components → plan. Files written by Reihe come back as they were; a file from elsewhere becomes one project
 * whose tasks take the working time between start and due date as duration and, where no link leads into them, their
 * start as *start no earlier than*; their gaps count elapsed time.
 */
final class TodoReader
{
    /** @var array<string, Calendar> */
    private array $calendars = [];

    /** @var array<string, string> key => uid */
    private array $calendarKeys = [];

    /** @var array<string, Todo> */
    private array $byUid = [];

    /** @var array<string, true> uids that some component names as its parent */
    private array $parents = [];

    /** @var array<string, true> uids that some link leads into */
    private array $followers = [];

    /** @var list<string> */
    public array $notes = [];

    /** @param  bool  $successorCarries the file puts the link on the successor's component, naming the predecessor */
    private function __construct(private readonly Todos $todos, private readonly Project $foreign, private readonly bool $successorCarries)
    {
    }

    /**
     * @param  Project  $foreign  the project that components from elsewhere go into
     * @param  array<string, Calendar>  $calendars  calendars at hand, by uid, among them that of $foreign
     * @return array{Plan, list<string>} the plan and what should be said about the reading
     *
     * @throws FormatError
     */
    public static function read(Todos $todos, Project $foreign, array $calendars, bool $successorCarries = false): array
    {
        $self = new self($todos, $foreign, $successorCarries);
        $self->calendars = $calendars;

        return [$self->plan(), [...$todos->notes, ...$self->notes]];
    }

    private function plan(): Plan
    {
        $this->ownCalendars();
        foreach ($this->todos->items as $todo) {
            if (isset($this->byUid[$todo->uid])) {
                throw new FormatError("UID {$todo->uid} is given twice");
            }
            $this->byUid[$todo->uid] = $todo;
            foreach ($todo->relations as $relation) {
                if ($relation->type === 'PARENT') {
                    $this->parents[$relation->uid] = true;
                } elseif (TodoMapper::linkType($relation->type) !== null) {
                    $this->followers[$this->successorCarries ? $todo->uid : $relation->uid] = true;
                }
            }
        }
        $parts = [];
        $foreign = false;
        foreach ($this->todos->items as $order => $todo) {
            try {
                if ($todo->extra('SORT') === null) {
                    $foreign = true;
                    $parts[] = $this->fromElsewhere($todo, $order + 1.0);
                } else {
                    $parts[] = $this->own($todo);
                }
                foreach ($this->links($todo) as $link) {
                    $parts[] = $link;
                }
            } catch (CoreException $e) {
                throw new FormatError("component {$todo->uid} “{$todo->summary}”: {$e->getMessage()}");
            }
        }
        if ($foreign) {
            $parts[] = $this->foreign;
            $this->reportForeign();
        }
        $plan = Plan::of($parts);
        $used = $foreign ? [$this->foreign->calendar => true] : [];

        return new Plan(array_filter($this->calendars, fn (Calendar $c): bool => isset($used[$c->uid]) || in_array($c->uid, $this->calendarKeys, true)),
            $plan->projects, $plan->wbs, $plan->activities, $plan->links, $plan->stubs);
    }

    private function ownCalendars(): void
    {
        foreach ($this->todos->extras['X-REIHE-CALENDAR'] ?? [] as $json) {
            $fields = json_decode($json, true);
            if (! is_array($fields) || ! is_string($fields['uid'] ?? null)) {
                throw new FormatError('X-REIHE-CALENDAR does not hold a calendar');
            }
            $uid = $fields['uid'];
            unset($fields['uid']);
            try {
                /** @var array<string, mixed> $fields */
                $calendar = Calendar::read($uid, $fields);
            } catch (CoreException $e) {
                throw new FormatError("X-REIHE-CALENDAR: {$e->getMessage()}");
            }
            $this->calendars[$uid] = $calendar;
            $this->calendarKeys[$calendar->key] = $uid;
        }
    }

    private function own(Todo $todo): Project|WbsElement|Activity|Stub
    {
        $sort = $todo->extra('SORT');
        if ($sort === 'stub') {
            $asOf = $todo->extra('AS-OF');

            return new Stub($todo->uid, $todo->extra('CODE') ?? '', $todo->summary, (int) $todo->start, (int) $todo->due, $todo->extra('SOURCE') ?? '', $asOf === null ? null : Instant::parse($asOf));
        }
        $fields = ['name' => $todo->summary];
        foreach ($todo->extras as $name => [$value]) {
            $field = TodoMapper::field(substr($name, 8));
            if (! in_array($field, ['sort', 'constraint'], true)) {
                $fields[$field] = match (true) {
                    in_array($field, ['duration', 'remaining', 'actualWork', 'remainingWork', 'cost'], true) => (int) $value,
                    in_array($field, ['position', 'criticalDays', 'nearCriticalDays', 'physicalPercent'], true) => (float) $value,
                    $field === 'checklist' => json_decode($value, true),
                    $field === 'estimate' => $value === 'TRUE',
                    $field === 'calendar' => $this->calendarKeys[$value] ?? throw new FormatError("component {$todo->uid}: calendar {$value} is not in the file"),
                    default => $value,
                };
            }
        }
        if ($sort === 'project') {
            foreach ($todo->categories as $category) {
                $pair = explode(': ', $category, 2);
                if (count($pair) === 2) {
                    $fields["code:{$pair[0]}"] = $pair[1];
                }
            }

            return Project::read($todo->uid, $fields);
        }
        $parent = $this->parent($todo) ?? throw new FormatError("component {$todo->uid} “{$todo->summary}” has no parent");
        $fields['project'] = $this->projectAbove($parent);
        $wbs = $parent === $fields['project'] ? null : $parent;
        if ($sort === 'wbs') {
            return WbsElement::read($todo->uid, ['parent' => $wbs] + $fields);
        }
        $constraints = array_map(static function (string $text): array {
            $pair = explode(' ', $text, 2);

            return ['kind' => $pair[0], 'date' => $pair[1] ?? null];
        }, $todo->extras['X-REIHE-CONSTRAINT'] ?? []);

        return Activity::read($todo->uid, ['wbs' => $wbs, 'constraints' => $constraints] + $fields);
    }

    private function fromElsewhere(Todo $todo, float $position): WbsElement|Activity
    {
        $parent = $this->parent($todo);
        $wbs = $parent !== null && isset($this->byUid[$parent]) ? $parent : null;
        if (isset($this->parents[$todo->uid])) {
            return new WbsElement($todo->uid, $this->foreign->uid, $wbs, $position, '', $todo->summary);
        }
        $axis = new WorkAxis($this->calendars[$this->foreign->calendar], $this->calendars);
        $due = $todo->due === null ? null : ($todo->allDay ? $todo->due + 1440 : $todo->due);
        $duration = match (true) {
            $todo->start !== null && $due !== null => max(0, $axis->between($todo->start, $due)),
            $todo->duration !== null => $todo->start === null ? $todo->duration : max(0, $axis->between($todo->start, $todo->start + $todo->duration)),
            $todo->start === null && $due === null => $axis->minutesPerDay,
            default => 0,
        };
        $kind = $duration > 0 ? Kind::Task : Kind::FinishMilestone;
        $at = $todo->start ?? $due;
        $constraints = $at === null || isset($this->followers[$todo->uid]) ? []
            : [['kind' => $kind === Kind::Task ? 'start-no-earlier' : 'finish-no-earlier', 'date' => Instant::format($kind === Kind::Task ? $at : ($due ?? $at))]];

        return Activity::read($todo->uid, [
            'project' => $this->foreign->uid, 'wbs' => $wbs, 'position' => $position, 'code' => sprintf('%s-%04d', $this->foreign->key, (int) $position * 10),
            'name' => $todo->summary, 'kind' => $kind->value, 'duration' => $duration,
            'estimate' => $todo->start === null && $due === null && $todo->duration === null, 'constraints' => $constraints,
        ]);
    }

    /** @return iterable<Link> */
    private function links(Todo $todo): iterable
    {
        foreach ($todo->relations as $relation) {
            $type = TodoMapper::linkType($relation->type);
            if ($type === null) {
                continue;
            }
            if (! isset($this->byUid[$relation->uid])) {
                $this->notes[] = "“{$todo->summary}”: the link to {$relation->uid} leads out of the file and was left out";

                continue;
            }
            [$from, $to] = $this->successorCarries ? [$relation->uid, $todo->uid] : [$todo->uid, $relation->uid];
            if (isset($this->parents[$from]) || isset($this->parents[$to])) {
                $this->notes[] = "“{$todo->summary}”: a link with a summary component was left out; links join activities";

                continue;
            }
            yield Link::read($relation->linkUid ?? "link:{$from}:{$to}:{$type->value}", ['from' => $from, 'to' => $to, 'type' => $type->value, 'lag' => $relation->gap]
                + array_combine(array_map(TodoMapper::field(...), array_keys($relation->extras)), array_values($relation->extras))
                + ['lagCalendar' => $relation->linkUid === null && $relation->gap !== 0 ? 'elapsed' : null]);
        }
    }

    private function parent(Todo $todo): ?string
    {
        foreach ($todo->relations as $relation) {
            if ($relation->type === 'PARENT') {
                return $relation->uid;
            }
        }

        return null;
    }

    private function projectAbove(string $uid): string
    {
        for ($steps = 0; $steps < 100; $steps++) {
            $todo = $this->byUid[$uid] ?? throw new FormatError("parent {$uid} is not in the file");
            if ($todo->extra('SORT') === 'project') {
                return $uid;
            }
            $uid = $this->parent($todo) ?? throw new FormatError("component {$uid} has no project above it");
        }
        throw new FormatError("component {$uid} lies inside itself");
    }

    private function reportForeign(): void
    {
        $allDay = $recurring = $undated = 0;
        foreach ($this->todos->items as $todo) {
            $allDay += $todo->allDay ? 1 : 0;
            $recurring += $todo->recurring ? 1 : 0;
            $undated += $todo->start === null && $todo->due === null && $todo->duration === null ? 1 : 0;
        }
        $this->notes[] = 'The file does not come from Reihe: durations are the working time between start and due date, starts became “start no earlier than” where no link leads in.';
        if ($allDay > 0) {
            $this->notes[] = "{$allDay} items are dated by whole days; their due day counts as worked.";
        }
        if ($recurring > 0) {
            $this->notes[] = "{$recurring} items recur; only the first occurrence was taken.";
        }
        if ($undated > 0) {
            $this->notes[] = "{$undated} items have no dates; they became one-day estimates.";
        }
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Constraint;
use Reihe\Core\Plan\Foreign;
use Reihe\Core\Plan\ForeignFormat;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Text;

/**
 * Schedule → to-do components: one per project, WBS element, activity and stub.
 *
 * Links follow RFC 9253, section 5: the predecessor's component carries RELATED-TO with RELTYPE and GAP and names the
 * successor. What iCalendar has no property for travels as `X-REIHE-…`, one per field of the core's written form.
 */
final class TodoMapper
{
    public const RELTYPES = ['FS' => 'FINISHTOSTART', 'SS' => 'STARTTOSTART', 'FF' => 'FINISHTOFINISH', 'SF' => 'STARTTOFINISH'];

    /** written form of what need not be said */
    private const DEFAULTS = ['percentBy' => 'duration', 'kept' => 'here'];

    private const STRUCTURE = ['project', 'parent', 'wbs', 'name', 'position', 'constraints', ...Project::STANDING];

    /** @var array<string, array<string, string>> uid of what is coded => uid of the coding => category */
    private array $categories = [];

    /** @var array<string, list<Assignment>> by activity */
    private array $assignments = [];

    /** @var array<string, list<Foreign>> by object */
    private array $kept = [];

    private function __construct(private readonly Schedule $schedule)
    {
    }

    public static function map(Schedule $schedule): Todos
    {
        return (new self($schedule))->todos();
    }

    private function todos(): Todos
    {
        $plan = $this->schedule->plan;
        $rollUp = RollUp::of($this->schedule);
        $todos = new Todos;
        foreach ($plan->calendars as $calendar) {
            $todos->extras['X-REIHE-CALENDAR'][] = self::json(['uid' => $calendar->uid] + $calendar->fields());
        }
        foreach (['X-REIHE-CODE-SET' => $plan->codeSets, 'X-REIHE-CODE-ENTRY' => $plan->entries,
            'X-REIHE-RESOURCE' => $plan->resources] as $property => $list) {
            foreach ($list as $uid => $object) {
                $todos->extras[$property][] = self::json(['uid' => $uid] + $object->fields());
            }
        }
        foreach ($plan->foreignContents as $content) {
            $content->format !== ForeignFormat::ICalendar ?: $this->kept[$content->of()][] = $content;
        }
        foreach ($plan->assignments as $assignment) {
            $this->assignments[$assignment->activity][] = $assignment;
        }
        foreach ($plan->codings as $coding) {
            $entry = $plan->entries[$coding->entry];
            $this->categories[$coding->activity
                ?? $coding->project][$coding->uid] = "{$plan->codeSets[$entry->codeSet]->key}: {$entry->key}";
        }
        foreach ($plan->projects as $project) {
            $node = $rollUp->projects[$project->uid];
            $todo = new Todo($project->uid, $project->name, $node->start ?? $project->start, $node->finish,
                percent: (int) floor($node->progress() * 100));
            $this->extras($todo, 'project', $project);
            $todos->items[] = $todo;
        }
        foreach ($plan->wbs as $element) {
            $node = $rollUp->wbs[$element->uid];
            $todo = new Todo($element->uid, $element->name, $node->start, $node->finish, percent: (int) floor($node->progress() * 100));
            $todo->relations[] = new Relation('PARENT', $element->parent ?? $element->project);
            $this->extras($todo, 'wbs', $element);
            $todos->items[] = $todo;
        }
        $links = $this->links();
        foreach ($plan->activities as $activity) {
            $todo = $this->activity($activity);
            array_push($todo->relations, ...($links[$activity->uid] ?? []));
            $todos->items[] = $todo;
        }
        foreach ($plan->stubs as $stub) {
            $todo = new Todo($stub->uid, $stub->name, $stub->start, $stub->finish);
            $todo->extras = ['X-REIHE-KIND' => ['stub'], 'X-REIHE-CODE' => [$stub->code], 'X-REIHE-SOURCE' => [$stub->source]];
            if ($stub->asOf !== null) {
                $todo->extras['X-REIHE-AS-OF'] = [Instant::format($stub->asOf)];
            }
            array_push($todo->relations, ...($links[$stub->uid] ?? []));
            $todos->items[] = $todo;
        }

        return $todos;
    }

    /**
     * A gap is elapsed time for others; what it is as working time stands beside it.
     *
     * @return array<string, list<Relation>> by predecessor
     */
    private function links(): array
    {
        $n = $this->schedule->network;
        $edges = array_flip($n->linkUid);
        $links = [];
        foreach ($this->schedule->plan->links as $link) {
            $extras = array_filter(array_diff_key($link->fields(), ['from' => 0, 'to' => 0, 'type' => 0, 'lag' => 0]), is_string(...));
            $extras = array_combine(array_map(self::property(...), array_keys($extras)), $extras);
            $gap = 0;
            if ($link->lag !== 0) {
                $dates = $this->schedule->activity($link->from);
                $from = in_array($link->type, [LinkType::FS, LinkType::FF], true) ? $dates->earlyFinish : $dates->earlyStart;
                $bound = isset($edges[$link->uid]) ? $n->shift($edges[$link->uid], $from) : null;
                $gap = $bound === null || $bound >= Network::BEYOND ? $link->lag : $bound - $from;
                $extras['LAG'] = "{$link->lag}/{$gap}";
            }
            $links[$link->from][] = new Relation(self::RELTYPES[$link->type->value], $link->to, $gap, $link->uid, $extras);
        }

        return $links;
    }

    private function activity(Activity $activity): Todo
    {
        $dates = $this->schedule->activity($activity->uid);
        $todo = new Todo($activity->uid, $activity->name, $dates->earlyStart, $dates->earlyFinish,
            percent: $activity->isFinished() ? 100
                : min(99, intdiv($this->schedule->network->percent[$this->schedule->network->node[$activity->uid]], 1000)),
            status: $activity->isFinished() ? 'COMPLETED' : ($activity->isStarted() ? 'IN-PROCESS' : 'NEEDS-ACTION'),
            completed: $activity->actualFinish);
        $todo->relations[] = new Relation('PARENT', $activity->wbs ?? $activity->project);
        $this->extras($todo, 'activity', $activity);
        if ($activity->measure->checklist !== []) {
            $todo->extras['X-REIHE-CHECKLIST'] = [self::json(Catalogue::written($activity->measure)['checklist'])];
        }
        foreach ($this->assignments[$activity->uid] ?? [] as $a) {
            $todo->extras['X-REIHE-ASSIGNMENT'][] = self::json(['uid' => $a->uid] + array_diff_key($a->fields(), ['activity' => 0]));
        }
        foreach ($activity->constraints as $constraint) {
            $todo->extras['X-REIHE-CONSTRAINT'][] = self::constraint($constraint);
        }
        $todo->extras['X-REIHE-WRITTEN'] = [Edits::written($todo)];

        return $todo;
    }

    private static function constraint(Constraint $constraint): string
    {
        return $constraint->kind->value.($constraint->date === null ? '' : ' '.Instant::format($constraint->date));
    }

    private function extras(Todo $todo, string $kind, Project|WbsElement|Activity $entity): void
    {
        $todo->extras['X-REIHE-KIND'] = [$kind];
        foreach ($entity->fields() as $name => $value) {
            if (! is_scalar($value) || $value === false || $value === (self::DEFAULTS[$name] ?? null)
                || in_array($name, self::STRUCTURE, true)) {
                continue;
            }
            if ($name === 'calendar') {
                $value = $this->schedule->plan->calendars[(string) $value]->key;
            }
            $todo->extras['X-REIHE-'.($name === 'kind' ? 'ACTIVITY-KIND' : self::property($name))] = [match (true) {
                $value === true => 'TRUE',
                is_float($value) => Text::decimal($value),
                default => (string) $value,
            }];
        }
        if ($entity instanceof WbsElement || $entity instanceof Activity) {
            $todo->extras['X-REIHE-POSITION'] = [Text::decimal($entity->position)];
        }
        foreach ($this->kept[$entity->uid] ?? [] as $content) {
            $todo->kept = explode("\n", $content->content);
            $todo->extras['X-REIHE-FOREIGN'] = [$content->uid];
        }
        $categories = $this->categories[$entity->uid] ?? [];
        if ($categories !== []) {
            $todo->categories = array_values($categories);
            $todo->extras['X-REIHE-CODING'] = [self::json(array_flip($categories))];
        }
    }

    private static function json(mixed $value): string
    {
        return json_encode($value, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR);
    }

    /** `statusDate` → `STATUS-DATE` */
    public static function property(string $field): string
    {
        return strtoupper((string) preg_replace('/(?<=[a-z])(?=[A-Z])/', '-', $field));
    }

    /** `STATUS-DATE` → `statusDate` */
    public static function field(string $property): string
    {
        return lcfirst(str_replace(' ', '', ucwords(str_replace('-', ' ', strtolower($property)))));
    }

    /** Link type of an RFC 9253 relation type, null when it is not one. */
    public static function linkType(string $relation): ?LinkType
    {
        $type = array_search(strtoupper($relation), self::RELTYPES, true);

        return $type === false ? null : LinkType::from($type);
    }
}

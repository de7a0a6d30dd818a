<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Foreign;
use Reihe\Core\Plan\ForeignFormat;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Codes;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;

/**
 * To-do components → plan. Files written by Reihe come back as they were; a file from elsewhere becomes one project
 * whose tasks take the working time between start and due date as duration and, where no link leads into them, their
 * start as *start no earlier than*; their gaps count elapsed time.
 */
final class TodoReader
{
    private const WORK = ['actualWork', 'remainingWork', 'cost'];

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

    private Codes $codes;

    /** relations that name no component of the file, that name a summary, uids that were replaced */
    private int $leadOut = 0;

    /** uid of the one project of ours in the file, which takes what others added; null where there are none or more */
    private ?string $only = null;

    private int $onSummaries = 0;

    private int $renamed = 0;

    private int $cancelled = 0;

    private int $tooLong = 0;

    /** links whose gap was dropped elsewhere, second parents, items due before they start, progress of summaries */
    private int $gapless = 0;

    private int $secondParents = 0;

    private int $dueFirst = 0;

    private int $ofSummaries = 0;

    /** uids of activities that need a calendar of every minute */
    private bool $isElapsed = false;

    private readonly Edits $edits;

    private readonly DescribedParts $described;

    /** @var array<string, WorkAxis> by calendar */
    private array $axes = [];

    /** latest moment up to which the file tells of work done */
    private ?int $known = null;

    /** @var array<string, string> uid => what the file calls it */
    private array $original = [];

    /** @var array<string, Resource> by uid */
    private array $resources = [];

    private int $resourceless = 0;

    /** @param  bool  $successorCarries the file puts the link on the successor's component, naming the predecessor */
    private function __construct(private readonly Todos $todos, private readonly Project $foreign, private readonly bool $successorCarries)
    {
        $this->edits = new Edits;
        $this->described = new DescribedParts($todos);
    }

    /**
     * @param  Project  $foreign  the project that components from elsewhere go into
     * @param  array<string, Calendar>  $calendars  calendars at hand, by uid, among them that of $foreign
     * @return array{Plan, list<string>, array<string, string>} the plan, what should be said about the reading, and what the file calls
     *     its components by uid
     *
     * @throws FormatError
     */
    public static function read(Todos $todos, Project $foreign, array $calendars, bool $successorCarries = false): array
    {
        $self = new self($todos, $foreign, $successorCarries);
        $self->calendars = $calendars;
        $self->codes = new Codes;

        return [$self->plan(), [...$todos->notes, ...$self->notes], $self->original];
    }

    private function plan(): Plan
    {
        foreach ($this->described->shared(array_fill_keys(array_keys($this->calendars), true)) as $described) {
            if ($described instanceof Calendar) {
                $this->calendars[$described->uid] = $described;
                $this->calendarKeys[$described->key] = $described->uid;
            } elseif ($described instanceof CodeSet || $described instanceof CodeEntry) {
                $this->codes->add($described);
            } elseif ($described instanceof Resource) {
                $this->resources[$described->uid] = $described;
            }
        }
        foreach ($this->todos->items as $todo) {
            $this->soundUids($todo);
            if (isset($this->byUid[$todo->uid])) {
                throw new FormatError('UID '.Text::short($todo->uid).' is given twice, the second time by “'.Text::short(
                    $todo->summary).'”', $this->line($todo->uid));
            }
            $this->byUid[$todo->uid] = $todo;
        }
        [$this->byUid, $this->cancelled, $this->leadOut] = Arrangement::of($this->byUid, $this->successorCarries);
        foreach ($this->byUid as $todo) {
            $above = array_filter($todo->relations, static fn (Relation $r): bool => $r->type === 'PARENT');
            $this->secondParents += count(array_unique(array_column($above, 'uid'))) > 1 ? 1 : 0;
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
        $order = 0;
        $ours = array_filter($this->byUid, static fn (Todo $t): bool => $t->kind() === 'project');
        $this->only = count($ours) === 1 ? (string) array_key_first($ours) : null;
        foreach ($this->byUid as $todo) {
            $order++;
            try {
                if ($todo->kind() === null) {
                    $parts[] = $made = $this->fromElsewhere($todo, (float) $order);
                    $foreign = $foreign || $made->project === $this->foreign->uid;
                    $this->kept($todo, $made, $parts);
                } else {
                    $parts[] = $object = $this->own($todo);
                    array_push($parts, ...$this->codings($todo, $object), ...$this->assignments($todo, $object));
                    $object instanceof Stub ?: $this->kept($todo, $object, $parts);
                }
                foreach ($this->links($todo) as $link) {
                    $parts[] = $link;
                }
            } catch (CoreException $e) {
                throw new FormatError($todo->place().": {$e->getMessage()}", $this->line($todo->uid));
            }
        }
        if ($foreign) {
            $parts[] = $this->ofForeign();
            array_push($this->notes, ...ForeignNotes::of($this->byUid));
        }
        array_push($this->notes, ...$this->edits->notes());
        foreach ([[$this->cancelled, 'item is cancelled and was left out', 'items are cancelled and were left out'],
            [$this->leadOut, 'link leads out of the file and was left out', 'links lead out of the file and were left out'],
            [$this->gapless, 'gap is missing beside the lag that it belongs to; the lag stays',
                'gaps are missing beside the lags that they belong to; the lags stay'],
            [$this->secondParents, 'item names a second parent; the first counts', 'items name a second parent; the first counts'],
            [$this->resourceless, 'assignment of a resource that the file does not describe was left out',
                'assignments of resources that the file does not describe were left out'],
            [$this->dueFirst, 'item is due before it starts; it lasts no time', 'items are due before they start; they last no time'],
            [$this->ofSummaries, 'summary tells progress; it follows from what lies below',
                'summaries tell progress; it follows from what lies below'],
            [$this->tooLong, 'property was too long to be kept', 'properties were too long to be kept'],
            [$this->onSummaries, 'link with a summary component was left out; links join activities',
                'links with a summary component were left out; links join activities'],
            [$this->renamed, 'identifier is not such that Reihe keeps it, and was replaced',
                'identifiers are not such that Reihe keeps them, and were replaced']] as [$count, $one, $many]) {
            $count === 0 ?: $this->notes[] = Text::counted($count, $one, $many).'.';
        }
        $plan = Plan::of([...$this->codes->all(), ...$this->resources, ...$parts]);
        $used = $foreign ? [$this->foreign->calendar => true] : [];
        if ($this->isElapsed) {
            $elapsed = Calendar::elapsed();
            $this->calendars[$elapsed->uid] = $elapsed;
            $used[$elapsed->uid] = true;
        }

        return new Plan(array_filter($this->calendars, fn (Calendar $c): bool => isset($used[$c->uid])
            || in_array($c->uid, $this->calendarKeys, true)),
            $plan->projects, $plan->wbs, $plan->activities, $plan->links, $plan->stubs, codeSets: $plan->codeSets, entries: $plan->entries,
            codings: $plan->codings, assignments: $plan->assignments, foreignContents: $plan->foreignContents,
            resources: $plan->resources);
    }

    /** Uids that the core does not take are replaced, here and where relations name them. */
    private function soundUids(Todo $todo): void
    {
        $this->renamed += Uid::isSound($todo->uid) ? 0 : 1;
        $this->original[Uid::of($todo->uid)] = $todo->uid;
        $todo->uid = Uid::of($todo->uid);
        foreach ($todo->relations as $i => $r) {
            $this->original[Uid::of($r->uid)] = $r->uid;
            $todo->relations[$i] = new Relation($r->type, Uid::of($r->uid), $r->gap, $r->linkUid === null ? null : Uid::of($r->linkUid),
                $r->extras, $r->hasGap);
        }
    }

    /** Where the file names a component; its beginning when that cannot be told. */
    private function line(string $uid): int
    {
        return $this->todos->lineOf($this->original[$uid] ?? $uid) ?? 1;
    }

    private function own(Todo $todo): Project|WbsElement|Activity|Stub
    {
        $kind = $todo->kind();
        if ($kind === 'stub') {
            $asOf = $todo->extra('AS-OF');

            return new Stub($todo->uid, $todo->extra('CODE') ?? '', $todo->summary, (int) $todo->start, (int) $todo->due,
                $todo->extra('SOURCE') ?? '', $asOf === null ? null : Instant::parse($asOf));
        }
        $fields = ['name' => $todo->summary];
        foreach ($todo->extras as $name => [$value]) {
            $field = TodoMapper::field(substr($name, 8));
            if (in_array($field, ['sort', 'constraint', 'coding', 'assignment', 'written', 'foreign', ...self::WORK], true)
                || ($field === 'kind' && $todo->extra('SORT') === null)) {
                continue;
            }
            $field = $field === 'activityKind' ? 'kind' : $field;
            $type = EntityKind::tryFrom((string) $kind)?->fields()[$field]->type ?? null;
            $fields[$field] = match (true) {
                $type === FieldType::Whole => (int) $value,
                $type === FieldType::Number => (float) $value,
                $type === FieldType::Items => json_decode($value, true),
                $type === FieldType::Flag => $value === 'TRUE',
                $field === 'calendar' => $this->calendarKeys[$value]
                    ?? throw new FormatError($todo->place().': calendar '.Text::short($value).' is not in the file',
                        $this->line($todo->uid)),
                default => $value,
            };
        }
        if ($kind === 'project') {
            return Project::read($todo->uid, $fields);
        }
        $parent = $todo->parent() ?? throw new FormatError($todo->place().' has no parent', $this->line($todo->uid));
        $fields['project'] = $this->projectAbove($parent);
        $wbs = $parent === $fields['project'] ? null : $parent;
        if ($kind === 'wbs') {
            return WbsElement::read($todo->uid, ['parent' => $wbs] + $fields);
        }
        $constraints = array_map(static function (string $text): array {
            $pair = explode(' ', $text, 2);

            return ['kind' => $pair[0], 'date' => $pair[1] ?? null];
        }, $todo->extras['X-REIHE-CONSTRAINT'] ?? []);

        $fields = ['wbs' => $wbs, 'constraints' => $constraints] + $fields;
        $calendar = $fields['calendar'] ?? null;
        $project = $this->byUid[$this->projectAbove($parent)];
        $calendar = is_string($calendar) ? $calendar : ($this->calendarKeys[$project->extra('CALENDAR') ?? ''] ?? null);

        return Activity::read($todo->uid, $calendar === null ? $fields : $this->edits->in($todo, $fields, $this->axis($calendar)));
    }

    private function axis(string $calendar): WorkAxis
    {
        return $this->axes[$calendar] ??= new WorkAxis($this->calendars[$calendar], $this->calendars);
    }

    /**
     * What has no place in a plan stands beside the object.
     *
     * @param  list<Entity|Stub>  $parts
     */
    private function kept(Todo $todo, Project|WbsElement|Activity $object, array &$parts): void
    {
        $lines = $todo->kept;
        $categories = array_filter($todo->categories, static fn (string $c): bool => $todo->kind() === null || ! str_contains($c, ': '));
        if ($categories !== []) {
            $lines[] = 'CATEGORIES:'.implode(',', array_map(static fn (string $c): string => addcslashes($c, ',;\\'), $categories));
        }
        $length = -1;
        foreach ($lines as $fit => $line) { // as many as there is room for
            $length += 1 + mb_strlen($line);
            if ($length > Foreign::LONGEST) {
                $this->tooLong += count($lines) - $fit;
                $lines = array_slice($lines, 0, $fit);
                break;
            }
        }
        $text = implode("\n", $lines);
        if (trim($text) === '') {
            return;
        }
        $parts[] = new Foreign(Uid::of($todo->extra('FOREIGN') ?? "foreign:icalendar:{$object->uid}"),
            $object instanceof Project ? $object->uid : $object->project, $object instanceof WbsElement ? $object->uid : null,
            $object instanceof Activity ? $object->uid : null, ForeignFormat::ICalendar, $text);
    }

    /** The project of components from elsewhere; progress is known up to the latest that they tell. */
    private function ofForeign(): Project
    {
        return $this->known === null ? $this->foreign : Project::read($this->foreign->uid,
            ['statusDate' => Instant::format($this->known)] + $this->foreign->fields());
    }

    /** @return iterable<Coding> */
    private function codings(Todo $todo, Project|WbsElement|Activity|Stub $object): iterable
    {
        if (! $object instanceof Project && ! $object instanceof Activity) {
            return;
        }
        $uids = json_decode($todo->extra('CODING') ?? '[]', true);
        foreach ($todo->categories as $category) {
            $pair = explode(': ', $category, 2);
            if (count($pair) !== 2) {
                continue;
            }
            $uid = is_array($uids) && is_string($uids[$category] ?? null) ? $uids[$category] : "coding:{$object->uid}:{$category}";
            yield new Coding(Uid::of($uid), $object instanceof Activity ? $object->project : $object->uid,
                $object instanceof Activity ? $object->uid : null,
                $this->codes->entry($object instanceof Activity ? CodeScope::Activity : CodeScope::Project, $pair[0], $pair[1]));
        }
    }

    /** @return iterable<Entity> */
    private function assignments(Todo $todo, Project|WbsElement|Activity|Stub $object): iterable
    {
        if (! $object instanceof Activity) {
            return;
        }
        $told = $todo->extras['X-REIHE-ASSIGNMENT'] ?? [];
        $first = [];
        foreach (self::WORK as $field) { // as the first version told it
            $value = $todo->extra(TodoMapper::property($field));
            $value === null ?: $first[$field] = (int) $value;
        }
        if ($told === [] && $first !== []) {
            $told = [json_encode(['uid' => "assignment:{$object->uid}"] + $first, JSON_THROW_ON_ERROR)];
        }
        foreach ($this->described->in('X-REIHE-ASSIGNMENT', EntityKind::Assignment, $told, ['activity' => $object->uid]) as $assignment) {
            if ($assignment instanceof Assignment && $assignment->resource !== null && ! isset($this->resources[$assignment->resource])) {
                $this->resourceless++;
            } else {
                yield $assignment;
            }
        }
    }

    private function fromElsewhere(Todo $todo, float $position): WbsElement|Activity
    {
        $parent = $todo->parent();
        $above = $parent === null ? null : $this->byUid[$parent] ?? null;
        $project = $above === null || $above->kind() === null ? $this->only ?? $this->foreign->uid
            : $this->projectAbove($above->uid); // new in one of ours
        $wbs = $above === null || $parent === $project || ! in_array($above->kind(), [null, 'wbs'], true) ? null : $parent;
        if (isset($this->parents[$todo->uid])) {
            $this->ofSummaries += ($todo->percent ?? 0) > 0 || $todo->completed !== null ? 1 : 0;

            return new WbsElement($todo->uid, $project, $wbs, $position, '', $todo->summary);
        }
        $isOurs = $project !== $this->foreign->uid;
        $calendar = $isOurs ? $this->calendarKeys[$this->byUid[$project]->extra('CALENDAR') ?? ''] ?? null : null;
        $axis = $this->axis($calendar ?? $this->foreign->calendar);
        $due = $todo->due;
        $this->dueFirst += $todo->start !== null && $due !== null && $due < $todo->start ? 1 : 0;
        $own = null;
        if ($todo->isEvent && $todo->start !== null && $this->isOffHours($todo, $todo->start, $axis)) { // it has its length all the same
            $own = Calendar::elapsed();
            $axis = $this->axes[$own->uid] ??= new WorkAxis($own);
            $this->isElapsed = true;
        }
        $duration = match (true) {
            $todo->start !== null && $due !== null => max(0, $axis->between($todo->start, $due)),
            $todo->duration !== null => $todo->start === null ? self::worked($todo, $axis)
                : max(0, $axis->between($todo->start, $todo->start + $todo->duration)),
            $todo->start === null && $due === null => $axis->minutesPerDay,
            default => 0,
        };
        $kind = $duration > 0 ? Kind::Task : Kind::FinishMilestone;
        $fields = [
            'project' => $project, 'wbs' => $wbs, 'position' => $position,
            'code' => sprintf('%s-%s%04d', $isOurs ? $this->byUid[$project]->extra('KEY') ?? 'NEW' : $this->foreign->key, $isOurs ? 'N'
                : '',
                (int) $position * 10),
            'name' => mb_substr($todo->summary, 0, 255), 'kind' => $kind->value, 'duration' => $duration, 'calendar' => $own?->uid,
            'estimate' => $todo->start === null && $due === null && $todo->duration === null,
        ];
        $fields = Edits::progress($todo, $fields, $duration);
        foreach (['actualStart', 'actualFinish'] as $actual) {
            is_string($fields[$actual] ?? null) ? $this->known = max($this->known ?? Instant::MIN, Instant::parse($fields[$actual])) : null;
        }
        $at = $todo->start ?? $due;
        if ($at !== null && ! isset($fields['actualStart']) && ($todo->isEvent || ! isset($this->followers[$todo->uid]))) {
            $isTask = $kind === Kind::Task;
            $fields['constraints'] = [['kind' => $todo->isEvent ? ($isTask ? 'start-pin' : 'finish-pin')
                : ($isTask ? 'start-no-earlier' : 'finish-no-earlier'), 'date' => Instant::format($isTask ? $at : ($due ?? $at))]];
        }

        return Activity::read($todo->uid, $fields);
    }

    /**
     * Does an appointment lie where nobody works, so that working time does not tell how long it is? Whole days are as long as they are.
     */
    private function isOffHours(Todo $todo, int $start, WorkAxis $axis): bool
    {
        $end = $todo->due ?? $start + ($todo->duration ?? 0);
        if ($end <= $start) {
            return false;
        }
        $worked = $axis->between($start, $end);

        return $worked === 0 || (! $todo->allDay && ($axis->up($start) !== $start || $axis->down($end) !== $end));
    }

    /** A duration without dates: days are those of the calendar. */
    private static function worked(Todo $todo, WorkAxis $axis): int
    {
        [$days, $minutes] = $todo->days ?? [0, (int) $todo->duration];

        return max(0, $days * $axis->minutesPerDay + $minutes);
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
                $this->leadOut++;

                continue;
            }
            [$from, $to] = $this->successorCarries ? [$relation->uid, $todo->uid] : [$todo->uid, $relation->uid];
            if (isset($this->parents[$from]) || isset($this->parents[$to])) {
                $this->onSummaries++;

                continue;
            }
            [$lag, $isElapsed] = $relation->lag();
            $this->gapless += $relation->lostGap() ? 1 : 0;
            $extras = array_diff_key($relation->extras, ['LAG' => 0]);
            yield Link::read($relation->linkUid ?? Uid::of("link:{$from}:{$to}:{$type->value}"),
                ['from' => $from, 'to' => $to, 'type' => $type->value, 'lag' => $lag]
                + ($isElapsed ? ['lagCalendar' => 'elapsed'] : [])
                + array_combine(array_map(TodoMapper::field(...), array_keys($extras)), array_values($extras)) + ['lagCalendar' => null]);
        }
    }

    private function projectAbove(string $uid): string
    {
        for ($steps = 0; $steps < 100; $steps++) {
            $todo = $this->byUid[$uid] ?? throw new FormatError('the parent '.Text::short($this->original[$uid]
                ?? $uid).' is not in the file', $this->line($uid));
            if ($todo->kind() === 'project') {
                return $uid;
            }
            $uid = $todo->parent() ?? throw new FormatError("component {$uid} has no project above it", $this->line($uid));
        }
        throw new FormatError("component {$uid} lies inside itself", $this->line($uid));
    }
}

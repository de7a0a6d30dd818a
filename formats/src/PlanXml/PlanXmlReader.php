<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\InvalidCalendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\CoreException;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Plan\WholeDays;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;
use Reihe\Formats\FormatError;
use Reihe\Formats\Xml;
use XMLReader;

/**
 * Reads Reihe plan XML, checked against plan.xsd. Errors name the line.
 *
 * Attributes are carried over as the written form of the core ({@see \Reihe\Core\Plan\Fields}); only references are
 * turned from keys and codes into uids, and uids that the core does not take into some that it does ({@see Uid::of()}).
 */
final class PlanXmlReader
{
    public const SCHEMA = __DIR__.'/plan.xsd';

    private int $ordinal = 0;

    /** @var list<Entity|Stub> */
    private array $parts = [];

    private CalendarParts $calendars;

    /** @var array<string, string> `KEY/CODE` => uid */
    private array $labels = [];

    /** @var list<array{string, float}> open project and WBS elements: uid, last position used */
    private array $open = [];

    private ?Project $project = null;

    /** @var array<array-key, true> keys of the projects so far */
    private array $projects = [];

    private SharedParts $shared;

    private LevelSchemes $levels;

    private Resources $resources;

    private ProjectParts $beside;

    private ForeignParts $foreign;

    private Uids $uids;

    /** @var array<string, string> attributes of the root */
    private array $root = [];

    /** @var array<string, array{lead: string|null, archived: bool}> path => what is said of the branch */
    private array $branches = [];

    /** @var array<string, string> project uid => path of the branch that it hangs on */
    private array $hangs = [];

    /** @var array<string, array{int, int}> uid => early start and finish, as the sender computed them */
    private array $computed = [];

    /** @var array<string, Calendar> */
    private array $measuring = [];

    /** @var array<string, WorkAxis> of calendars that a date without an hour asked for */
    private array $axes = [];

    /** @var array<string, string> activity => calendar */
    private array $measures = [];

    private function __construct(private readonly string $xml, private readonly ?\Closure $tick)
    {
        $this->uids = new Uids;
        $this->calendars = new CalendarParts($this->uids);
        $this->shared = new SharedParts($this->uids);
        $this->levels = new LevelSchemes($this->uids);
        $this->resources = new Resources($this->uids);
        $this->beside = new ProjectParts($this->uids);
        $this->foreign = new ForeignParts($this->uids);
    }

    /**
     * @param  \Closure(int): mixed|null  $tick  hears now and then how many elements were read
     *
     * @throws FormatError
     */
    public static function read(string $xml, ?\Closure $tick = null): PlanDocument
    {
        $xml = Xml::decoded($xml);
        $self = new self($xml, $tick);
        try {
            Xml::reading($self->document(...));
        } catch (InvalidField|InvalidCalendar|InvalidInstant $e) {
            throw new FormatError($e->getMessage(), Xml::lineOfElement($xml, $self->ordinal));
        } catch (FormatError $e) {
            Xml::reading(static function () use ($xml, $e): void {
                throw $e->with(Xml::complaints($xml, self::SCHEMA));
            });
        }

        return new PlanDocument(Plan::of([...$self->shared->all(), ...$self->levels->all(), ...$self->resources->all(), ...$self->parts,
            ...$self->beside->insertions]), $xml,
            $self->uids->ordinals, $self->uids->given, $self->told(), $self->computed);
    }

    private function told(): Told
    {
        return new Told(isset($this->root['written']) ? Instant::parse($this->root['written']) : null, $this->root['source'] ?? null, null,
            $this->beside->baselines, new Hierarchy($this->branches, $this->hangs), $this->root['timeZone'] ?? null,
            $this->root['currency'] ?? null, array_values(array_filter(explode(' ', $this->root['without'] ?? ''))));
    }

    private function document(): void
    {
        $reader = new XMLReader;
        $reader->XML($this->xml, null, LIBXML_NONET);
        $reader->setSchema(self::SCHEMA);
        while (@$reader->read()) {
            Xml::raise();
            if ($this->foreign->takes($reader, $this->ordinal)) {
                continue;
            }
            if ($reader->nodeType === XMLReader::ELEMENT) {
                if (++$this->ordinal % 500 === 0 && $this->tick !== null) {
                    ($this->tick)($this->ordinal);
                }
                $empty = $reader->isEmptyElement;
                $name = $reader->localName;
                $attributes = $others = [];
                while ($reader->moveToNextAttribute()) {
                    $of = $reader->name;
                    if (! str_contains($of, ':') && $of !== 'xmlns') {
                        $attributes[$of] = $reader->value;
                    } elseif (ForeignXml::isForeign($reader->namespaceURI)) {
                        $others[] = [$reader->prefix, $reader->localName, $reader->namespaceURI, $reader->value];
                    }
                }
                if (in_array($name, ['project', 'wbs', 'activity'], true)) {
                    $this->foreign->begin($others);
                }
                $this->begin($name, WhiteSpace::read($name, $attributes));
                if ($empty) {
                    $this->end($name);
                }
            } elseif ($reader->nodeType === XMLReader::END_ELEMENT) {
                $this->end($reader->localName);
            }
        }
        Xml::raise();
    }

    /**
     * @var array{name: string, attributes: array<string, string>, constraints: list<array<string, mixed>>,
     *     checklist: list<array<string, mixed>>, standing: list<array{string, array<string, string>}>,
     *     attached: list<array{EntityKind, array<string, string>}>, ordinal: int, computed?: array{string, string}}|null
     */
    private ?array $pending = null;

    /** @param  array<string, string>  $a */
    private function begin(string $name, array $a): void
    {
        switch ($name) {
            case 'plan':
                isset($a['written']) && Instant::parse($a['written']); // complains where it stands
                $this->root = $a;
                break;
            case 'branch':
                $this->branches[Hierarchy::path(Hierarchy::names($a['path']))] = ['lead' => $a['lead'] ?? null,
                    'archived' => in_array($a['archived'] ?? '', ['true', '1'], true)];
                break;
            case 'constraint':
                if ($this->pending !== null) {
                    $this->pending['constraints'][] = ['kind' => $a['kind'], 'date' => $a['date'] ?? null];
                }
                break;
            case 'baseline':
            case 'insertion':
                $this->finishProject();
                $this->beside->begin($a, $this->projectNow()->uid, $this->ordinal);
                break;
            case 'row':
            case 'pair':
                $this->beside->inside($name, $a);
                break;
            case 'computed':
                if ($this->pending !== null) {
                    array_map(Instant::parse(...), array_diff_key($a, ['totalFloat' => 0, 'freeFloat' => 0, 'critical' => 0]));
                    $this->pending['computed'] = [$a['earlyStart'], $a['earlyFinish']];
                }
                break;
            case 'item':
                if ($this->pending !== null) {
                    $this->pending['checklist'][] = ['name' => $a['name'], 'weight' => (float) ($a['weight'] ?? 1),
                        'done' => in_array($a['done'] ?? '', ['true', '1'], true)];
                }
                break;
            case 'project':
                $this->closeCalendars();
                $this->pending = ['name' => $name, 'attributes' => $a, 'constraints' => [], 'checklist' => [], 'standing' => [],
                    'attached' => [], 'ordinal' => $this->ordinal];
                break;
            case 'code':
            case 'own':
                if ($this->pending !== null) {
                    $this->pending['standing'][] = [$name, $a];
                }
                break;
            case 'wbs':
                $this->finishProject();
                $this->wbs($a);
                break;
            case 'activity':
                $this->finishProject();
                $this->pending = ['name' => $name, 'attributes' => $a, 'constraints' => [], 'checklist' => [], 'standing' => [],
                    'attached' => [], 'ordinal' => $this->ordinal];
                break;
            case 'foreign':
                $this->foreign->told($a);
                break;
            case 'resource':
                $this->closeCalendars();
                $calendar = isset($a['calendar']) ? $this->calendars->named($a['calendar'], 'calendar') : null;
                $this->resources->add($a, ['calendar' => $calendar] + $this->timed(EntityKind::Resource,
                    Attributes::values(EntityKind::Resource, $a), $calendar), $this->ordinal);
                break;
            case 'stub':
                $this->stub($a);
                break;
            case 'link':
                $this->link($a);
                break;
            default:
                $kind = $this->calendars->begin($name, $a, $this->ordinal) || $this->shared->begin($name, $a, $this->ordinal)
                    || $this->levels->begin($name, $a, $this->ordinal) ? null
                    : EntityKind::tryFrom($name);
                if ($kind !== null && $this->pending !== null) { // the schema lets in only what it can have
                    $this->pending['attached'][] = [$kind, $a];
                } elseif ($kind !== null) {
                    $this->attach([[$kind, $a]], $this->projectNow(), null, $this->projectNow()->key, $this->ordinal);
                }
        }
    }

    private function end(string $name): void
    {
        match ($name) {
            'activity' => $this->activity(),
            'project' => $this->endProject(),
            'wbs' => $this->endWbs(),
            'plan' => $this->closeCalendars(),
            'baseline', 'insertion' => $this->beside->end($name),
            'levelScheme', 'levelCode' => $this->levels->end($name),
            default => $this->shared->end($name),
        };
    }

    private function closeCalendars(): void
    {
        foreach ($this->calendars->made() as $calendar) {
            $this->add($calendar, $this->uids->ordinals[$calendar->uid]);
        }
    }

    /**
     * Codes and values in own fields.
     *
     * @param  list<array{string, array<string, string>}>  $standing  name and attributes of the elements
     * @param  string  $label  of what has them
     */
    private function standing(array $standing, Project $project, ?string $activity, string $label): void
    {
        foreach ($standing as [$name, $a]) {
            $this->add($name === 'code' ? $this->shared->coding($a, $project, $activity, $label, $this->ordinal)
                : $this->shared->ownValue($a, $project, $activity, $label, $this->ordinal), $this->ordinal);
        }
    }

    /**
     * What stands on a project or an activity with its fields as attributes. Without a uid it is known again by what it says.
     *
     * @param  list<array{EntityKind, array<string, string>}>  $attached
     * @param  string  $label  of what has it
     */
    private function attach(array $attached, Project $project, ?string $activity, string $label, int $ordinal): void
    {
        $before = [];
        foreach ($attached as [$kind, $a]) {
            $name = "{$kind->value}:{$label}".($kind === EntityKind::Assignment ? '' : ':'.implode("\n", $a));
            $before[$name] = ($before[$name] ?? 0) + 1;
            $uid = $this->uids->of($ordinal, $a, $before[$name] === 1 ? $name : "{$name}:{$before[$name]}");
            $on = array_intersect_key(['project' => $project->uid, 'activity' => $activity], $kind->fields());
            $values = Attributes::values($kind, $a);
            foreach ($kind->entry()->references as $reference) { // by the uids of the file, resources by their keys
                is_string($values[$reference->field] ?? null) && $values[$reference->field] = $reference->to === EntityKind::Resource
                    ? $this->resources->named($values[$reference->field]) : Uid::of($values[$reference->field]);
            }
            $this->add($kind->read($uid, $on + $values), $ordinal);
        }
    }

    private function finishProject(): void
    {
        if ($this->pending === null || $this->pending['name'] !== 'project') {
            return;
        }
        ['attributes' => $a, 'standing' => $standing, 'attached' => $attached, 'ordinal' => $ordinal] = $this->pending;
        if (isset($this->projects[$a['key']])) {
            throw new InvalidField('key', "project {$a['key']} is given twice");
        }
        $this->projects[$a['key']] = true;
        $uid = $this->uids->of($this->ordinal, $a, "project:{$a['key']}");
        $calendar = $this->calendars->named($a['calendar'], 'calendar');
        $this->project = $project = Project::read($uid, array_replace($this->timed(EntityKind::Project,
            Attributes::values(EntityKind::Project, array_diff_key($a, ['path' => 0])), $calendar), ['calendar' => $calendar,
                'levelScheme' => isset($a['levelScheme']) ? $this->levels->named($a['levelScheme']) : null]));
        $this->add($project, $ordinal);
        isset($a['path']) && $this->hangs[$uid] = Hierarchy::path(Hierarchy::names($a['path']));
        $this->open = [[$uid, 0.0]];
        $this->standing($standing, $project, null, $a['key']);
        $this->attach($attached, $project, null, $a['key'], $ordinal);
        $this->pending = null;
    }

    private function endProject(): void
    {
        $this->finishProject();
        $this->keep(null, null);
        $this->open = [];
    }

    private function endWbs(): void
    {
        $this->keep($this->parent(), null);
        array_pop($this->open);
    }

    /** Foreign content of the object that ends. */
    private function keep(?string $wbs, ?string $activity): void
    {
        foreach ($this->foreign->end($this->ordinal, $this->projectNow()->uid, $wbs, $activity) as $content) {
            $this->add($content, $this->ordinal);
        }
    }

    /** @param  array<string, string>  $a */
    private function wbs(array $a): void
    {
        $uid = $this->uids->of($this->ordinal, $a, "wbs:{$this->projectNow()->key}:{$this->ordinal}");
        $this->add(WbsElement::read($uid, $this->timed(EntityKind::Wbs,
            Attributes::values(EntityKind::Wbs, $a), $this->projectNow()->calendar) + ['project' => $this->projectNow()->uid,
                'parent' => $this->parent(),
                'position' => $this->position()]), $this->ordinal);
        $this->open[] = [$uid, 0.0];
    }

    private function activity(): void
    {
        if ($this->pending === null) {
            return;
        }
        $a = $this->pending['attributes'];
        ['attached' => $attached, 'standing' => $standing, 'constraints' => $constraints, 'checklist' => $checklist,
            'ordinal' => $ordinal] = $this->pending;
        $computed = $this->pending['computed'] ?? null;
        $project = $this->projectNow();
        $label = "{$project->key}/{$a['code']}";
        if (isset($this->labels[$label])) {
            throw new FormatError("activity code {$label} is given twice", Xml::lineOfElement($this->xml, $ordinal));
        }
        $uid = $this->uids->of($this->ordinal, $a, "activity:{$label}");
        $this->labels[$label] = $uid;
        $work = array_intersect_key($a, ['actualWork' => 0, 'remainingWork' => 0, 'cost' => 0]);
        if ($work !== []) { // the first version
            array_unshift($attached, [EntityKind::Assignment, $work]);
        }
        $values = Attributes::values(EntityKind::Activity, array_diff_key($a, $work));
        $own = isset($a['calendar']) ? $this->calendars->named($a['calendar'], 'calendar') : null;
        $measure = $this->measures[$uid] = $own ?? $project->calendar;
        $values = ($own === null ? [] : ['calendar' => $own]) + $values;
        if ($computed !== null) {
            $moment = fn (string $text, DayEdge $edge): int => Instant::parse(WholeDays::moment($text, $edge, $this->axis($measure)));
            $this->computed[$uid] = [$moment($computed[0], DayEdge::First), $moment($computed[1], DayEdge::Last)];
        }
        try {
            $values += ['constraints' => $constraints, 'checklist' => $checklist];
            $this->add(Activity::read($uid, $this->timed(EntityKind::Activity, $values, $measure)
                + ['project' => $project->uid, 'wbs' => $this->parent(), 'position' => $this->position()]), $ordinal);
            $this->standing($standing, $project, $uid, $label);
            $this->keep(null, $uid);
            $this->attach($attached, $project, $uid, $label, $ordinal);
        } catch (InvalidField $e) {
            throw new FormatError("activity {$label}: {$e->getMessage()}", Xml::lineOfElement($this->xml, $ordinal));
        }
        $this->pending = null;
    }

    /** @param  array<string, string>  $a */
    private function stub(array $a): void
    {
        if (isset($this->labels[$a['code']])) {
            throw new InvalidField('code', "stub {$a['code']} has the name of an activity or stub of the file");
        }
        $uid = $this->uids->of($this->ordinal, $a, "stub:{$a['code']}");
        try {
            $stub = new Stub($uid, $a['code'], $a['name'] ?? '', Instant::parse($a['start']),
                Instant::parse(WholeDays::moment($a['finish'], DayEdge::Last, null)),
                $a['source'] ?? '',
                isset($a['asOf']) ? Instant::parse($a['asOf']) : null);
        } catch (CoreException $e) {
            throw new InvalidField('stub', $e->getMessage());
        }
        $this->labels[$a['code']] = $uid;
        $this->uids->ordinals[$uid] = $this->ordinal;
        $this->parts[] = $stub;
    }

    /** @param  array<string, string>  $a */
    private function link(array $a): void
    {
        $name = "link:{$a['from']}:{$a['to']}:".($a['type'] ?? 'FS');
        $uid = $this->uids->of($this->ordinal, $a, isset($this->uids->ordinals[Uid::of($name)]) ? "{$name}:{$this->ordinal}"
            : $name); // the same link twice is refused with better words later
        $ends = [];
        foreach (['from', 'to'] as $end) {
            $ends[$end] = $this->labels[$a[$end]] ?? throw new InvalidField($end, "there is no activity {$a[$end]} in the file");
        }
        $values = $this->timed(EntityKind::Link, Attributes::values(EntityKind::Link, $a), $this->measures[$ends['to']] ?? null);
        $this->add(Link::read($uid, array_replace($values, $ends)), $this->ordinal);
    }

    /**
     * Dates without an hour with the one that they mean on a calendar.
     *
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private function timed(EntityKind $kind, array $values, ?string $calendar): array
    {
        return WholeDays::timed($kind, $values, fn (): ?WorkAxis => $this->axis($calendar));
    }

    private function axis(?string $calendar): ?WorkAxis
    {
        try {
            return $calendar === null || ! isset($this->measuring[$calendar]) ? null
                : $this->axes[$calendar] ??= new WorkAxis($this->measuring[$calendar], $this->measuring);
        } catch (CoreException) {
            return null; // the check of the plan says what is wrong with it
        }
    }

    private function add(Entity $part, int $ordinal): void
    {
        ! $part instanceof Calendar ?: $this->measuring[$part->uid] = $part;
        $this->uids->ordinals[$part->uid()] = $ordinal;
        $this->parts[] = $part;
    }

    private function projectNow(): Project
    {
        return $this->project ?? throw new InvalidField('project', 'is missing');
    }

    private function parent(): ?string
    {
        return count($this->open) > 1 ? $this->open[count($this->open) - 1][0] : null;
    }

    private function position(): float
    {
        return ++$this->open[count($this->open) - 1][1];
    }
}

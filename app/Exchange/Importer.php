<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Baselines\Imported;
use App\Planning\Enterprise;
use App\Planning\PlanStore;
use Illuminate\Support\Str;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Insertion;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\Format;
use Reihe\Formats\FormatError;
use Reihe\Formats\PlanFile;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\Todo\TodoReader;

/**
 * File → operations that create its projects on a branch. What is taken already is renamed, calendars that exist are
 * used, and everything that could not be carried over is said in the notes.
 */
final class Importer
{
    /** @var list<string> keys of the projects so far */
    private array $keys = [];

    /** where the file comes from */
    private string $source = '';

    /** @var array<string, array{int, int}> uid in the file => early start and finish that the sender computed */
    private array $computed = [];

    /** @var list<array{Baseline, bool}> of the file, with whether it is the current one */
    private array $baselines = [];

    private readonly Arrivals $here;

    private function __construct(private readonly Reach $reach, private readonly string $branch)
    {
        $this->here = new Arrivals;
    }

    /**
     * @param  string  $name  of the file, names the project when the file does not
     * @param  callable(string, int, int): void|null  $tick  hears the step, what is done of it and of how much (0: not known)
     *
     * @throws FormatError
     */
    public static function import(string $content, string $name, string $branch, Reach $reach, Reading $reading = new Reading,
        ?callable $tick = null): Import
    {
        $format = PlanFile::formatOf($content);
        $self = new self($reach, $branch);
        $plan = $self->read($content, $format, $name, $reading, $tick);
        $tick === null ?: $tick('comparing', 0, 0);
        (new SharedArrivals($self->here))->take($plan);
        $self->projects($plan);
        $self->rows($plan);
        $self->links($plan);

        return new Import($format, $self->here->operations, $self->here->notes, $self->source,
            $self->source === Enterprise::source() ? [] : $self->here->identities,
            array_map(static fn (array $b): array => Imported::packed($b[0], $b[1], $self->here->uids), $self->baselines),
            array_combine(array_map(static fn (int|string $uid): string => $self->here->uids[$uid], array_keys($self->computed)),
                $self->computed));
    }

    private function read(string $content, Format $format, string $name, Reading $reading, ?callable $tick): Plan
    {
        if ($format === Format::PlanXml) {
            $document = PlanXmlReader::read($content, $tick === null ? null : static fn (int $elements) => $tick('reading', $elements, 0));
            $document->check(); // names the line of what does not fit together
            $this->source = $document->source ?? "file:{$name}";
            $this->here->given = $document->given;
            $this->computed = $document->computed;
            $this->baselines = $document->baselines;
            $n = count($this->baselines);
            $n === 0 ?: $this->here->notes[] = $n === 1 ? '1 baseline comes along.' : "{$n} baselines come along.";

            return $document->plan;
        }
        $calendars = PlanStore::calendars();
        if ($calendars === []) {
            throw new FormatError('there is no calendar yet to measure the durations with; import plan XML or make one first');
        }
        $office = array_values(array_filter($calendars, static fn ($c): bool => $c->key === 'OFFICE'))[0] ?? reset($calendars);
        $todos = PlanFile::todos($content, $format, app(Zone::class), $reading->events);
        $foreign = PlanFile::projectOf($todos, (string) Str::ulid(), $name, $office, ProjectKeys::isTaken(...),
            Instant::parse(now()->format('Y-m-d')));
        $this->source = 'file:'.PlanFile::title($name);
        [$plan, $notes, $this->here->given] = TodoReader::read($todos, $foreign, $calendars, $reading->successorCarries);
        array_push($this->here->notes, ...$notes);
        try {
            PlanCheck::of($plan);
        } catch (InvalidPlan $e) {
            throw new FormatError($e->getMessage());
        }

        return $plan;
    }

    private function projects(Plan $plan): void
    {
        foreach ($plan->projects as $uid => $project) {
            $fields = $project->fields();
            $fields['key'] = ProjectKeys::free($project->key, $this->keys);
            $this->keys[] = $fields['key'];
            if ($fields['key'] !== $project->key) {
                $this->here->notes[] = "Project key {$project->key} is taken; the project is imported as {$fields['key']}.";
            }
            $fields['branch'] = $this->branch;
            $fields['calendar'] = $this->here->uids[$project->calendar];
            $fields['levelScheme'] = $project->levelScheme === null ? null : $this->here->uids[$project->levelScheme];
            $this->here->create(EntityKind::Project, $uid, $fields);
        }
    }

    private function rows(Plan $plan): void
    {
        $this->here->reserve(EntityKind::Link, array_keys($plan->links));
        foreach ([EntityKind::Wbs, EntityKind::Activity, ...EntityKind::standingOnActivities(), EntityKind::Coding,
            EntityKind::OwnValue, EntityKind::Insertion, EntityKind::Foreign] as $kind) {
            $this->here->reserve($kind, array_keys($plan->all($kind)));
            foreach ($plan->all($kind) as $uid => $object) {
                $fields = $object->fields();
                foreach ($kind->entry()->references as $reference) {
                    $to = $fields[$reference->field];
                    $fields[$reference->field] = is_string($to) ? $this->here->uids[$to] : null;
                }
                if ($object instanceof Insertion) {
                    $fields['pairs'] = $this->pairs($object);
                }
                $this->here->operations[] = Operation::create($kind, $this->here->uids[$uid], $kind->brief($fields));
            }
        }
    }

    /** @return list<array{of: string, made: string}> of what is in the file */
    private function pairs(Insertion $insertion): array
    {
        $pairs = [];
        foreach ($insertion->pairs as $pair) {
            if (isset($this->here->uids[$pair->made])) {
                $pairs[] = ['of' => $pair->of, 'made' => $this->here->uids[$pair->made]];
            }
        }

        return $pairs;
    }

    private function links(Plan $plan): void
    {
        $first = array_values($plan->projects)[0] ?? null;
        $far = new FarEnds($this->reach, $this->branch, $this->source, $this->keys,
            $first === null ? '' : $this->here->uids[$first->calendar],
            $first === null ? null : new WorkAxis($plan->calendars[$first->calendar], $plan->calendars));
        $far->find($plan);
        array_push($this->here->operations, ...$far->operations);
        array_push($this->here->notes, ...$far->notes);
        $joined = 0;
        foreach ($plan->links as $uid => $link) {
            $ends = [];
            foreach (['from' => $link->from, 'to' => $link->to] as $end => $activity) {
                $ends[$end] = isset($plan->stubs[$activity]) ? $far->uids[$activity] ?? null : $this->here->uids[$activity];
                if ($ends[$end] === null) {
                    $this->here->notes[] = "The handover {$plan->label($link->from)} → {$plan->label($link->to)} was left out: "
                        ."{$plan->stubs[$activity]->code} is not here.";
                }
            }
            if ($ends['from'] !== null && $ends['to'] !== null) {
                $joined += $far->isHere($link->from) || $far->isHere($link->to) ? 1 : 0;
                $this->here->operations[] = Operation::create(EntityKind::Link, $this->here->uids[$uid],
                    EntityKind::Link->brief($ends + $link->fields()));
            }
        }
        if ($joined > 0) {
            $this->here->notes[] = $joined === 1 ? '1 handover is joined to an activity that is here already.'
                : "{$joined} handovers are joined to activities that are here already.";
        }
    }
}

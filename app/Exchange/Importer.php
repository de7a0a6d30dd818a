<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Baselines\Imported;
use App\Database\Enterprise;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Reconciliation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Insertion;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\Extract;
use Reihe\Core\Schedule\Schedule;
use Reihe\Formats\FormatError;

/**
 * File → operations that create its projects on a branch. What is taken already is renamed, calendars that exist are
 * used, and everything that could not be carried over is said in the notes.
 */
final class Importer
{
    /** @var list<string> keys of the projects so far */
    private array $keys = [];

    /** @var list<array{Baseline, bool}> of the file, with whether it is the current one */
    private array $baselines = [];

    /** @var array<array-key, string> those of them that somebody chose now */
    private readonly array $chosen;

    /** @var array<string, array<string, true>> project => codes that are taken there */
    private array $codes = [];

    /** of the file, where they are wanted */
    private readonly ?Branches $branches;

    private readonly Arrivals $here;

    private function __construct(private readonly Contents $file, private readonly Reach $reach, private readonly string $branch,
        private readonly Reading $reading)
    {
        $this->here = new Arrivals;
        $this->here->given = $file->given;
        $this->here->notes = $file->notes;
        $this->baselines = $file->baselines;
        $this->chosen = $reading->mapping[EntityKind::Project->value] ?? [];
        $this->branches = $reading->branches ? new Branches($reach, $branch, $file->hierarchy) : null;
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
        $file = new Contents($content, $name, $reach, $reading, $reading->mapping[EntityKind::Project->value] ?? [], $tick);
        $self = new self($file, $reach, $branch, $reading);
        $plan = $file->plan;
        $tick === null ?: $tick('comparing', 0, 0);
        $isOurs = $file->source === Enterprise::source();
        $known = $reading->update ? new Known($plan, $file->source, $file->given, $isOurs, $file->written, $reach,
            $file->byHand, $file->withoutCode) : null;
        $self->here->known = $known?->schedule === null ? null : $known;
        $plan = $self->without($plan, $known->beyond ?? []);
        $shared = new SharedArrivals($self->here, $file->source, $isOurs, $reading->mapping);
        $shared->take($plan);
        $self->projects($plan);
        $self->newBaselines();
        $self->rows($plan);
        $self->links($plan);
        $operations = $self->here->operations;
        $updating = null;
        if ($self->here->known !== null) {
            $updating = new Reconciliation($self->here->known->plan, new FileSource($self->here, $self->here->known, $file->carried),
                $reading->fileWins, $reading->deleteMissing);
            $updating->of($operations);
            array_push($self->here->notes, ...$updating->notes);
            $n = $updating->staying;
            $n === 0 ?: $self->here->notes[] = ($n === 1 ? '1 row of the file was' : "{$n} rows of the file were")
                .' deleted or moved elsewhere here and '.($n === 1 ? 'stays' : 'stay').' so.';
            $operations = $updating->operations;
            $self->here->operations = [];
        }

        return new Import($file->format, $operations, $self->here->notes, $file->source,
            $isOurs ? [] : $self->identities($operations, $updating->said ?? []),
            array_map(static fn (array $b): array => Imported::packed($b[0], $b[1], $self->here->uids), $self->baselines),
            $self->computed(), $updating, [...$self->lines($file->plan, $known->beyond ?? []), ...$shared->lines],
            $self->here->known?->schedule);
    }

    /** @return array<string, array{int, int}> uid here => early start and finish that the sender computed */
    private function computed(): array
    {
        $computed = [];
        foreach ($this->file->computed as $uid => $dates) {
            isset($this->here->uids[$uid]) && $computed[$this->here->uids[$uid]] = $dates;
        }

        return $computed;
    }

    /**
     * The file without the projects that stay as they are here, which are outside ends of their handovers then.
     *
     * @param  array<array-key, string>  $beyond  what the source calls them => why
     */
    private function without(Plan $plan, array $beyond): Plan
    {
        $left = [];
        foreach ($plan->projects as $uid => $project) {
            $why = $beyond[$this->here->foreign((string) $uid)] ?? null;
            if ($why === null) {
                $left[(string) $uid] = true;
            } else {
                $this->here->notes[] = "{$project->key} stays as it is: {$why}.";
            }
        }
        if (count($left) === count($plan->projects)) {
            return $plan;
        }
        $this->baselines = array_values(array_filter($this->baselines, static fn (array $b): bool => isset($left[$b[0]->project])));

        return Extract::of(Schedule::of($plan), $left, array_fill_keys(array_map(strval(...), array_keys($plan->projects)), true));
    }

    /** Baselines never change: those that are here came before. */
    private function newBaselines(): void
    {
        $this->baselines = array_values(array_filter($this->baselines, fn (array $b): bool => ! Imported::isThere(
            $this->here->uids[$b[0]->project], $b[0]->name, $b[0]->taken)));
        $n = count($this->baselines);
        $n === 0 ?: $this->here->notes[] = $n === 1 ? '1 baseline comes along.' : "{$n} baselines come along.";
    }

    /**
     * What the projects of the file are here.
     *
     * @param  array<array-key, string>  $beyond  what the source calls those that stay as they are
     * @return list<MappingLine>
     */
    private function lines(Plan $plan, array $beyond): array
    {
        $lines = [];
        foreach ($plan->projects as $uid => $project) {
            $foreign = $this->here->given[$uid] ?? (string) $uid;
            $to = $this->here->known?->uid(EntityKind::Project, $foreign);
            $now = $this->here->known->plan->projects[(string) $to] ?? null;
            $how = isset($beyond[$foreign]) ? 'beyond' : $this->here->known->projects[(string) $to] ?? 'new';
            $lines[] = new MappingLine(EntityKind::Project, $foreign, "{$project->key} {$project->name}", $to,
                $now === null ? null : "{$now->key} {$now->name}", $how === 'hand' && ! isset($this->chosen[$foreign]) ? 'known' : $how);
        }

        return $lines;
    }

    /**
     * What the source calls what is made, and what it says of it for the next time. Of what is made the proposal tells it, apart from
     * projects, which are given more.
     *
     * @param  list<Operation>  $operations
     * @param  array<string, list<array{string, string, array<string, mixed>|null}>>  $identities  of what is here: kind => uid here,
     *     what the source calls it and says of it
     * @return array<string, array<array-key, string|array{string, string, array<string, mixed>|null}>> kind => uid here => what the source
     *     calls it; or uid, what it calls it and what it says of it
     */
    private function identities(array $operations, array $identities): array
    {
        foreach ($operations as $o) {
            $kind = $o->kind->value;
            $foreign = $o->verb === Verb::Create ? $this->here->identities[$kind][$o->uid] ?? null : null;
            if ($foreign !== null && $o->kind === EntityKind::Project) {
                $identities[$kind][] = [$o->uid, $foreign, $o->after];
            } elseif ($foreign !== null) {
                $identities[$kind][$o->uid] = $foreign;
            }
        }
        foreach ($this->here->mapped as $kind => $list) {
            foreach ($list as $foreign => $uid) {
                $identities[$kind][] = [$uid, (string) $foreign, null];
            }
        }

        return $identities;
    }

    /** The project here that one of the file is about. */
    private function now(string $uid): ?Project
    {
        $now = $this->here->known?->uid(EntityKind::Project, $this->here->foreign($uid));

        return $this->here->known->plan->projects[(string) $now] ?? null;
    }

    private function projects(Plan $plan): void
    {
        $new = array_filter(array_map(strval(...), array_keys($plan->projects)), fn (string $uid): bool => $this->now($uid) === null);
        $this->branches?->make(array_values($new));
        foreach ($plan->projects as $uid => $project) {
            $now = $this->now((string) $uid);
            $fields = $project->fields();
            if ($uid === $this->file->madeUp && $now !== null) {
                $fields = ['statusDate' => max($fields['statusDate'], $now->fields()['statusDate'])] + $now->fields();
            } else {
                $fields['calendar'] = $this->here->uids[$project->calendar];
                $fields['levelScheme'] = $project->levelScheme === null ? null : $this->here->uids[$project->levelScheme];
            }
            if ($now !== null) { // what is decided here, not in the file
                $fields = array_intersect_key($now->fields(), array_flip(Project::STANDING)) + $fields;
                $key = $uid === $this->file->madeUp || ProjectKeys::free($project->key, $this->keys) !== $project->key ? $now->key
                    : $project->key;
            } else {
                $key = ProjectKeys::free($project->key, $this->keys);
                $fields['branch'] = $this->branches?->of((string) $uid) ?? $this->branch;
                $key === $project->key ?: $this->here->notes[] = "Project key {$project->key} is taken; the project is imported as {$key}.";
            }
            $this->keys[] = $key;
            $this->here->create(EntityKind::Project, $uid, ['key' => $key] + $fields);
        }
        if ($this->branches !== null && $this->branches->operations !== []) {
            array_unshift($this->here->operations, ...$this->branches->operations);
            $this->here->notes[] = 'New branches: '.implode(', ', $this->branches->made).'.';
        }
    }

    private function rows(Plan $plan): void
    {
        $this->here->reserve(EntityKind::Link, array_keys($plan->links));
        foreach (array_filter(EntityKind::inProjects(), static fn (EntityKind $kind): bool => $kind !== EntityKind::Link) as $kind) {
            $this->here->reserve($kind, array_keys($plan->all($kind)));
            foreach ($plan->all($kind) as $uid => $object) {
                $fields = $object->fields();
                foreach ($kind->entry()->references as $reference) {
                    $to = $fields[$reference->field];
                    $fields[$reference->field] = is_string($to) ? $this->here->uids[$to] : null;
                }
                if ($object instanceof Activity && isset($this->file->withoutCode[$uid]) && $this->here->known !== null) {
                    $fields['code'] = $this->code($this->here->uids[$uid], $this->here->uids[$object->project], $object->code, $plan);
                }
                if ($object instanceof Insertion) {
                    $fields['pairs'] = $this->pairs($object);
                }
                $this->here->operations[] = Operation::create($kind, $this->here->uids[$uid], $kind->brief($fields));
            }
        }
    }

    /** The code that it has here, or one that is free there, where the file says none. */
    private function code(string $uid, string $project, string $proposed, Plan $file): string
    {
        $plan = $this->here->known->plan ?? new Plan;
        if ($this->codes === []) {
            foreach ($plan->activities as $a) {
                $this->codes[$a->project][$a->code] = true;
            }
            foreach ($file->activities as $a) {
                isset($this->file->withoutCode[$a->uid]) ?: $this->codes[$this->here->uids[$a->project]][$a->code] = true;
            }
        }
        if (isset($plan->activities[$uid])) {
            return $plan->activities[$uid]->code;
        }
        for ($n = 1, $code = $proposed; isset($this->codes[$project][$code]); $n++) {
            $code = mb_substr($proposed, 0, 30)."-{$n}";
        }
        $this->codes[$project][$code] = true;

        return $code;
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
        $far = new FarEnds($this->reach, $this->branch, $this->file->source, $this->keys,
            $first === null ? '' : $this->here->uids[$first->calendar],
            $first === null ? null : new WorkAxis($plan->calendars[$first->calendar], $plan->calendars), $this->reading->update);
        $far->find($plan);
        array_push($this->here->operations, ...$far->operations);
        array_push($this->here->notes, ...$far->notes);
        $joined = 0;
        foreach ($plan->links as $uid => $link) {
            $ends = $open = [];
            foreach (['from' => $link->from, 'to' => $link->to] as $end => $activity) {
                $ends[$end] = isset($plan->stubs[$activity]) ? $far->uids[$activity] ?? null : $this->here->uids[$activity];
                $ends[$end] !== null ?: $open[$end] = $plan->stubs[$activity]->code;
            }
            if ($open !== []) { // what is out of reach stays the end that it is
                $now = count($open) > 1 ? null : $this->here->known?->link($link, $this->here->foreign((string) $uid), reset($open), $ends);
                $ends = $now === null ? $ends : ['from' => $now->from, 'to' => $now->to];
                $now === null ?: $this->here->uids[$uid] = $now->uid;
                if ($now === null) {
                    $this->here->notes[] = "The handover {$plan->label($link->from)} → {$plan->label($link->to)} was left out: "
                        .reset($open).' is not here, or out of your reach.';

                    continue;
                }
            }
            $joined += $far->isHere($link->from) || $far->isHere($link->to) ? 1 : 0;
            $this->here->operations[] = Operation::create(EntityKind::Link, $this->here->uids[$uid],
                EntityKind::Link->brief($ends + $link->fields()));
        }
        if ($joined > 0) {
            $this->here->notes[] = $joined === 1 ? '1 handover is joined to an activity that is here already.'
                : "{$joined} handovers are joined to activities that are here already.";
        }
    }
}

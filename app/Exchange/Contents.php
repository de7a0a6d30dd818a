<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Planning\Connected;
use App\Planning\PlanStore;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Role;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\Format;
use Reihe\Formats\FormatError;
use Reihe\Formats\PlanFile;
use Reihe\Formats\PlanXml\Hierarchy;
use Reihe\Formats\PlanXml\PlanDocument;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\Todo\Todo;
use Reihe\Formats\Todo\TodoReader;
use Reihe\Formats\Todo\Todos;

/** A file as it was read: its plan, who wrote it, what it calls its objects, and what it says beside the plan. */
final class Contents
{
    /** what the project of a calendar of others is called in its source */
    public const CALENDAR = 'calendar';

    public readonly Format $format;

    public readonly Plan $plan;

    /** where the file comes from */
    public string $source = '';

    /** when the file was written, in minutes since 2000-01-01, where it says so */
    public ?int $written = null;

    /** @var array<string, string> uid in the file => what it really says */
    public array $given = [];

    /** @var list<string> what is to be said about the reading */
    public array $notes = [];

    /** @var array<string, array{int, int}> uid in the file => early start and finish that the sender computed */
    public array $computed = [];

    /** @var list<array{Baseline, bool}> with whether it is the current one */
    public array $baselines = [];

    public Hierarchy $hierarchy;

    /** @var array<string, true> uids in the file of activities that the file gives no code */
    public array $withoutCode = [];

    public Carried $carried;

    /** uid in the file of the project that a calendar of others goes into, which says nothing of projects */
    public string $madeUp = '';

    /**
     * @param  string  $name  of the file, names the project when the file does not
     * @param  array<array-key, string>  $byHand  what the source calls projects => uid here, or nothing for a new one
     * @param  callable(string, int, int): void|null  $tick  hears the step, what is done of it and of how much (0: not known)
     *
     * @throws FormatError
     */
    public function __construct(string $content, string $name, private readonly Reach $reach, Reading $reading, public array $byHand,
        ?callable $tick)
    {
        $this->hierarchy = new Hierarchy;
        $this->format = PlanFile::formatOf($content);
        $this->plan = $this->read($content, $name, $reading, $tick);
    }

    private function read(string $content, string $name, Reading $reading, ?callable $tick): Plan
    {
        if ($this->format === Format::PlanXml) {
            $document = PlanXmlReader::read($content, $tick === null ? null : static fn (int $elements) => $tick('reading', $elements, 0));
            $document->check(); // names the line of what does not fit together
            $this->source = $document->told->source ?? "file:{$name}";
            $this->given = $document->given;
            $this->computed = $document->computed;
            $this->elsewhere($document);
            $this->hierarchy = $document->told->hierarchy;
            $this->baselines = $document->told->baselines;
            $this->written = $document->told->written;
            $this->carried = new Carried($this->format, $document->told->without);

            return $document->plan;
        }
        $calendars = PlanStore::calendars();
        if ($calendars === []) {
            throw new FormatError('there is no calendar yet to measure the durations with; import plan XML or make one first');
        }
        $office = array_values(array_filter($calendars, static fn ($c): bool => $c->key === 'OFFICE'))[0] ?? reset($calendars);
        $todos = PlanFile::todos($content, $this->format, app(Zone::class), $reading->events);
        [$this->source, $this->written] = $this->sender($todos, $name);
        $this->madeUp = (string) Str::ulid();
        $of = $reading->update ? $this->updatedBy(array_map(static fn (Todo $t): string => $t->uid, $todos->items)) : null;
        /** @var Project $foreign */
        $foreign = $of === null ? PlanFile::projectOf($todos, $this->madeUp, $name, $office, ProjectKeys::isTaken(...),
            Instant::parse(now()->format('Y-m-d')))
                : EntityKind::Project->read($this->madeUp, array_diff_key($of->fields(), array_flip(Project::STANDING)));
        [$plan, $notes, $given] = TodoReader::read($todos, $foreign, $calendars, $reading->successorCarries);
        $this->given = [$this->madeUp => self::CALENDAR] + $given;
        $this->carried = new Carried($this->format, array_values(array_intersect(Less::PARTS,
            explode(' ', $todos->extras['X-REIHE-WITHOUT'][0] ?? ''))));
        foreach ($todos->items as $todo) {
            if ($todo->extra('CODE') === null && $todo->kind() === null) {
                $this->withoutCode[$todo->uid] = true;
                $this->carried->silent[$todo->uid] = ['code' => true];
            }
        }
        foreach ($plan->links as $uid => $link) { // those of others have no name of their own
            $this->given[$uid] ??= Uid::of(implode(' ', [$given[$link->from] ?? $link->from, $link->type->value,
                $given[$link->to] ?? $link->to]));
        }
        array_push($this->notes, ...$notes);
        try {
            PlanCheck::of($plan);
        } catch (InvalidPlan $e) {
            throw new FormatError($e->getMessage());
        }

        return $plan;
    }

    /** Numbers and times stay what they are; it is said where they may mean something else. */
    private function elsewhere(PlanDocument $document): void
    {
        $told = $document->told;
        $ours = config()->string('reihe.currency');
        if ($told->currency !== null && $told->currency !== $ours && array_filter($document->plan->assignments,
            static fn (Assignment $a): bool => $a->cost !== null && $a->cost !== 0) !== []) {
            $this->notes[] = "Costs are in {$told->currency} there and in {$ours} here; the amounts were taken as they are.";
        }
        $zone = app(Zone::class)->name;
        if ($told->timeZone !== null && $told->timeZone !== $zone) {
            $this->notes[] = "The clock there is that of {$told->timeZone}, here that of {$zone}; "
                .'times of day were taken as they are.';
        }
    }

    /** @return array{string, int|null} who wrote a calendar, and when */
    private function sender(Todos $todos, string $name): array
    {
        $source = array_values(array_unique($todos->extras['X-REIHE-SOURCE'] ?? []));
        $written = $todos->extras['X-REIHE-WRITTEN'] ?? [];
        if (count($source) !== 1) {
            return ['file:'.PlanFile::title($name), null];
        }
        try {
            return [$source[0], $written === [] ? null : min(array_map(Instant::parse(...), $written))];
        } catch (InvalidInstant) {
            return [$source[0], null];
        }
    }

    /**
     * The project that a calendar of others went into before, or is to go into, whose calendar then measures it. Other calendars may be in
     * files of the same name: something of it must be known.
     *
     * @param  list<string>  $uids  of its components
     */
    private function updatedBy(array $uids): ?Project
    {
        $of = fn (EntityKind $kind): Builder => DB::table('external_identities')
            ->where('source', $this->source)->where('kind', $kind->value);
        $uid = $this->byHand[self::CALENDAR] ?? null;
        if ($uid === null) {
            $known = array_filter(array_chunk($uids, 1000), static fn (array $chunk): bool => $of(EntityKind::Activity)
                ->whereIn('foreign_id', $chunk)->exists());
            $uid = $known === [] ? null : $of(EntityKind::Project)->where('foreign_id', self::CALENDAR)->value('uid');
        }
        $id = ! is_string($uid) || $uid === '' ? null
            : DB::table('projects')->where('uid', $uid)->where('archived', false)
                ->whereIn('branch_id', array_filter($this->reach->branches(), fn (int $b): bool => $this->reach->may(Role::Planner, $b)))
                ->value('id');
        $project = is_int($id) ? Connected::with([$id])->plan->projects[$uid] ?? null : null;
        if ($project === null && is_string($uid) && $uid !== '' && DB::table('projects')->where('uid', $uid)->exists()) {
            return null; // it is here, and stays as it is
        }
        $this->byHand[self::CALENDAR] = $project->uid ?? '';

        return $project;
    }
}

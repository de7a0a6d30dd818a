<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Planning\PlanStore;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\Text;
use Reihe\Formats\Todo\IcsReader;
use Reihe\Formats\Todo\TodoReader;
use Reihe\Formats\Todo\XCalReader;

/**
 * File → operations that create its projects on a branch. What is taken already is renamed, calendars that exist are
 * used, and everything that could not be carried over is said in the notes.
 */
final class Importer
{
    /** @var list<string> */
    private array $notes = [];

    /** @var array<string, string> uid in the file => uid here */
    private array $uids = [];

    /** @var list<Operation> */
    private array $operations = [];

    private function __construct(private readonly Reach $reach, private readonly int $branch)
    {
    }

    /**
     * @param  string  $name  of the file, names the project when the file does not
     * @param  callable(string, int, int): void|null  $tick  hears the step, what is done of it and of how much (0: not known)
     *
     * @throws FormatError
     */
    public static function import(string $content, string $name, int $branch, Reach $reach, bool $successorCarries = false, ?callable $tick = null): Import
    {
        $format = Format::detect($content) ?? throw new FormatError('the file is neither plan XML nor iCalendar nor xCal');
        $self = new self($reach, $branch);
        $plan = $self->read($content, $format, $name, $successorCarries, $tick);
        $tick === null ?: $tick('comparing', 0, 0);
        $self->calendars($plan);
        $self->projects($plan);
        $self->rows($plan);
        $self->links($plan);

        return new Import($format, $self->operations, $self->notes);
    }

    private function read(string $content, Format $format, string $name, bool $successorCarries, ?callable $tick): Plan
    {
        if ($format === Format::PlanXml) {
            $document = PlanXmlReader::read($content, $tick === null ? null : static fn (int $elements) => $tick('reading', $elements, 0));
            $document->check(); // names the line of what does not fit together

            return $document->plan;
        }
        $calendars = PlanStore::calendars();
        if ($calendars === []) {
            throw new FormatError('there is no calendar yet to measure the durations with; import plan XML or make one first');
        }
        $office = array_values(array_filter($calendars, static fn ($c): bool => $c->key === 'OFFICE'))[0] ?? reset($calendars);
        $title = mb_substr(Text::clean(mb_scrub(pathinfo($name, PATHINFO_FILENAME), 'UTF-8')), 0, 120);
        $todos = $format === Format::ICalendar ? IcsReader::read($content) : XCalReader::read($content);
        $starts = array_filter(array_map(static fn ($t): ?int => $t->start, $todos->items), is_int(...));
        $foreign = new Project((string) Str::ulid(), ProjectKeys::propose($title), $title === '' ? 'Imported' : $title, '', $office->uid, $starts === [] ? Instant::parse(now()->format('Y-m-d')) : min($starts));
        [$plan, $notes] = TodoReader::read($todos, $foreign, $calendars, $successorCarries);
        array_push($this->notes, ...$notes);
        try {
            PlanCheck::of($plan);
        } catch (InvalidPlan $e) {
            throw new FormatError($e->getMessage());
        }

        return $plan;
    }

    private function calendars(Plan $plan): void
    {
        $here = [];
        foreach (PlanStore::calendars() as $calendar) {
            $here[$calendar->key] = $calendar;
        }
        $pending = $plan->calendars;
        while ($pending !== []) {
            foreach ($pending as $uid => $calendar) {
                if ($calendar->base !== null && isset($pending[$calendar->base])) {
                    continue; // its base comes first
                }
                unset($pending[$uid]);
                $fields = $calendar->fields();
                $fields['base'] = $calendar->base === null ? null : $this->uids[$calendar->base];
                $same = $here[$calendar->key] ?? null;
                if ($same !== null && $same->fields() == $fields) {
                    $this->uids[$uid] = $same->uid;

                    continue;
                }
                $key = $calendar->key;
                for ($n = 2; isset($here[$key]); $n++) {
                    $key = "{$calendar->key}-{$n}";
                }
                $fields['key'] = $key;
                if ($key !== $calendar->key) {
                    $this->notes[] = "Calendar {$calendar->key} differs from the one here and is imported as {$key}.";
                }
                $this->create(EntityKind::Calendar, $uid, 'calendars', $fields);
                $here[$key] = $calendar;
            }
        }
    }

    private function projects(Plan $plan): void
    {
        $codes = DB::table('code_entries')->join('code_sets', 'code_sets.id', '=', 'code_entries.code_set_id')->where('scope', 'project')->get(['code_sets.key as set', 'code_entries.key as value'])
            ->mapWithKeys(static function (object $c): array {
                /** @var object{set: string, value: string} $c */
                return ["code:{$c->set}={$c->value}" => true];
            });
        $taken = [];
        foreach ($plan->projects as $uid => $project) {
            $fields = $project->fields();
            $fields['key'] = ProjectKeys::free($project->key, $taken);
            $taken[] = $fields['key'];
            if ($fields['key'] !== $project->key) {
                $this->notes[] = "Project key {$project->key} is taken; the project is imported as {$fields['key']}.";
            }
            $fields['branch'] = (string) $this->branch;
            $fields['calendar'] = $this->uids[$project->calendar];
            foreach ($fields as $name => $value) {
                if (str_starts_with($name, 'code:') && ! isset($codes["{$name}=".(is_string($value) ? $value : '')])) {
                    unset($fields[$name]);
                    $this->notes[] = "{$project->key}: the entry ".(is_string($value) ? $value : '').' of '.substr($name, 5).' does not exist here and was left out.';
                }
            }
            $this->create(EntityKind::Project, $uid, 'projects', $fields);
        }
    }

    private function rows(Plan $plan): void
    {
        $this->reserve('links', array_keys($plan->links));
        foreach ([EntityKind::Wbs, EntityKind::Activity, ...EntityKind::standingOnActivities()] as $kind) {
            $this->reserve(Table::of($kind)->name(), array_keys($plan->all($kind)));
            foreach ($plan->all($kind) as $uid => $object) {
                $fields = $object->fields();
                foreach ($kind->entry()->references as $reference) {
                    $to = $fields[$reference->field];
                    $fields[$reference->field] = is_string($to) ? $this->uids[$to] : null;
                }
                $this->operations[] = Operation::create($kind, $this->uids[$uid], $kind->brief($fields));
            }
        }
    }

    private function links(Plan $plan): void
    {
        $far = [];
        $joined = 0;
        foreach ($plan->stubs as $uid => $stub) {
            [$key, $code] = [...explode('/', $stub->code, 2), ''];
            $found = $this->reach->limit(DB::table('activities')->join('projects', 'projects.id', '=', 'activities.project_id'))
                ->where('projects.key', $key)->where('activities.code', $code)->value('activities.uid');
            $far[$uid] = is_string($found) ? $found : null;
        }
        foreach ($plan->links as $uid => $link) {
            $ends = [];
            foreach (['from' => $link->from, 'to' => $link->to] as $end => $activity) {
                $ends[$end] = array_key_exists($activity, $far) ? $far[$activity] : $this->uids[$activity];
                if ($ends[$end] === null) {
                    $this->notes[] = "The handover {$plan->label($link->from)} → {$plan->label($link->to)} was left out: {$plan->stubs[$activity]->code} is not here.";
                }
            }
            if ($ends['from'] !== null && $ends['to'] !== null) {
                $joined += isset($far[$link->from]) || isset($far[$link->to]) ? 1 : 0;
                $this->operations[] = Operation::create(EntityKind::Link, $this->uids[$uid], EntityKind::Link->brief($ends + $link->fields()));
            }
        }
        if ($joined > 0) {
            $this->notes[] = $joined === 1 ? '1 handover is joined to an activity that is here already.' : "{$joined} handovers are joined to activities that are here already.";
        }
    }

    /** @param  array<string, mixed>  $fields */
    private function create(EntityKind $kind, string $uid, string $table, array $fields): void
    {
        $this->reserve($table, [$uid]);
        $this->operations[] = Operation::create($kind, $this->uids[$uid], $fields);
    }

    /**
     * Keeps the uids of the file where they are sound and free, else makes new ones.
     *
     * @param  list<array-key>  $uids
     */
    private function reserve(string $table, array $uids): void
    {
        $taken = [];
        foreach (array_chunk($uids, 1000) as $chunk) {
            $taken += DB::table($table)->whereIn('uid', array_map(strval(...), $chunk))->pluck('id', 'uid')->all();
        }
        foreach ($uids as $uid) {
            $this->uids[(string) $uid] = isset($taken[$uid]) || ! Uid::isSound((string) $uid) ? (string) Str::ulid() : (string) $uid;
        }
    }
}

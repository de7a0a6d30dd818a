<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Planning\Enterprise;
use App\Planning\PlanStore;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\LevelCode;
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

    /** @var list<string> keys of the projects so far */
    private array $keys = [];

    /** where the file comes from */
    private string $source = '';

    /** @var array<string, array<string, string>> kind => uid here => what the source calls it */
    private array $identities = [];

    /** @var array<string, string> uid in the file => what it really says */
    private array $given = [];

    /** @var array<string, array{int, int}> uid in the file => early start and finish that the sender computed */
    private array $computed = [];

    private function __construct(private readonly Reach $reach, private readonly string $branch)
    {
    }

    /**
     * @param  string  $name  of the file, names the project when the file does not
     * @param  callable(string, int, int): void|null  $tick  hears the step, what is done of it and of how much (0: not known)
     *
     * @throws FormatError
     */
    public static function import(string $content, string $name, string $branch, Reach $reach, bool $successorCarries = false,
        ?callable $tick = null): Import
    {
        $format = Format::detect($content) ?? throw new FormatError('the file is neither plan XML nor iCalendar nor xCal');
        $self = new self($reach, $branch);
        $plan = $self->read($content, $format, $name, $successorCarries, $tick);
        $tick === null ?: $tick('comparing', 0, 0);
        $self->calendars($plan);
        $self->codes($plan);
        $self->ownFields($plan);
        $self->levelSchemes($plan);
        $self->projects($plan);
        $self->rows($plan);
        $self->links($plan);

        return new Import($format, $self->operations, $self->notes, $self->source,
            $self->source === Enterprise::source() ? [] : $self->identities,
            array_combine(array_map(static fn (int|string $uid): string => $self->uids[$uid], array_keys($self->computed)),
                $self->computed));
    }

    private function read(string $content, Format $format, string $name, bool $successorCarries, ?callable $tick): Plan
    {
        if ($format === Format::PlanXml) {
            $document = PlanXmlReader::read($content, $tick === null ? null : static fn (int $elements) => $tick('reading', $elements, 0));
            $document->check(); // names the line of what does not fit together
            $this->source = $document->source ?? "file:{$name}";
            $this->given = $document->given;
            $this->computed = $document->computed;

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
        $foreign = new Project((string) Str::ulid(), ProjectKeys::propose($title), $title === '' ? 'Imported' : $title, null, $office->uid,
            $starts === [] ? Instant::parse(now()->format('Y-m-d')) : min($starts));
        $this->source = "file:{$title}";
        [$plan, $notes, $this->given] = TodoReader::read($todos, $foreign, $calendars, $successorCarries);
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
                $this->create(EntityKind::Calendar, $uid, $fields);
                $here[$key] = $calendar;
            }
        }
    }

    /** Sets and entries are found by their keys; what is not here is made. */
    private function codes(Plan $plan): void
    {
        $here = PlanStore::load([])[0];
        $sets = $entries = $made = [];
        foreach ($here->codeSets as $set) {
            $sets["{$set->scope->value} {$set->key}"] = $set->uid;
        }
        foreach ($here->entries as $entry) {
            $entries["{$entry->codeSet} {$entry->key}"] = $entry->uid;
        }
        foreach ($plan->codeSets as $uid => $set) {
            $found = $sets["{$set->scope->value} {$set->key}"] ?? null;
            if ($found !== null) {
                $this->uids[$uid] = $found;
            } else {
                $this->create(EntityKind::CodeSet, $uid, $set->fields());
                $made[] = "code set {$set->name}";
            }
        }
        $pending = $plan->entries;
        while ($pending !== []) {
            foreach ($pending as $uid => $entry) {
                if ($entry->parent !== null && isset($pending[$entry->parent])) {
                    continue; // that above it comes first
                }
                unset($pending[$uid]);
                $set = $this->uids[$entry->codeSet];
                $found = $entries["{$set} {$entry->key}"] ?? null;
                if ($found !== null) {
                    $this->uids[$uid] = $found;

                    continue;
                }
                $fields = ['codeSet' => $set, 'parent' => $entry->parent === null ? null : $this->uids[$entry->parent]] + $entry->fields();
                $this->create(EntityKind::Entry, $uid, $this->withFreeName($here, $fields));
                $made[] = "entry {$plan->entryName($uid)}";
            }
        }
        if ($made !== []) {
            $this->notes[] = 'Not here yet and made: '.implode(', ',
                array_slice($made, 0, 8)).(count($made) > 8 ? ' and '.(count($made) - 8).' more' : '').'.';
        }
    }

    /**
     * Another entry beside it may have its name, under another key.
     *
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    private function withFreeName(Plan $here, array $fields): array
    {
        foreach ($here->entries as $entry) {
            if ($entry->codeSet === $fields['codeSet'] && $entry->parent === $fields['parent'] && $entry->name === $fields['name']) {
                return ['name' => mb_substr("{$entry->name} (".(is_string($fields['key']) ? $fields['key'] : ''), 0, 119).')'] + $fields;
            }
        }

        return $fields;
    }

    /** Own fields that hold the same are used; what holds something else here stands beside it under another key and name. */
    private function ownFields(Plan $plan): void
    {
        $keys = $names = [];
        foreach (PlanStore::load([])[0]->ownFields as $field) {
            $keys["{$field->scope->value} {$field->key}"] = $field;
            $names["{$field->scope->value} {$field->name}"] = true;
        }
        foreach ($plan->ownFields as $uid => $field) {
            $scope = $field->scope->value;
            $found = $keys["{$scope} {$field->key}"] ?? null;
            if ($found !== null && $found->type === $field->type && $found->formula === $field->formula
                && array_diff(array_column($field->choices, 'name'), array_column($found->choices, 'name')) === []) {
                $this->uids[$uid] = $found->uid;

                continue;
            }
            $free = static function (string $text, string $between, array $taken) use ($scope): string {
                for ($n = 2, $now = $text; isset($taken["{$scope} {$now}"]); $n++) {
                    $now = mb_substr($text, 0, 36)."{$between}{$n}";
                }

                return $now;
            };
            // what is demanded of new projects is a matter of each enterprise
            $fields = ['key' => $free($field->key, '-', $keys), 'name' => $free($field->name, ' ', $names), 'required' => false]
                + $field->fields();
            $this->create(EntityKind::OwnField, $uid, $fields);
            $keys["{$scope} {$fields['key']}"] = $field;
            $names["{$scope} {$fields['name']}"] = true;
            $this->notes[] = $found === null ? "Own field {$fields['name']} is not here yet and is made."
                : "Own field {$field->name} holds something else here; the file’s is made as {$fields['name']} ({$fields['key']}).";
        }
    }

    /** A level scheme that says the same is used, with its codes; what says something else here stands beside it under another key. */
    private function levelSchemes(Plan $plan): void
    {
        $here = PlanStore::load([])[0];
        $keys = [];
        foreach ($here->levelSchemes as $scheme) {
            $keys[$scheme->key] = $scheme->uid;
        }
        foreach ($plan->levelSchemes as $uid => $scheme) {
            $found = $keys[$scheme->key] ?? null;
            if ($found !== null && $here->levelSchemes[$found]->fields() == $scheme->fields()
                && self::levelCodes($here, $found) == self::levelCodes($plan, $uid)) {
                $this->uids[$uid] = $found;

                continue;
            }
            for ($n = 2, $key = $scheme->key; isset($keys[$key]); $n++) {
                $key = mb_substr($scheme->key, 0, 36)."-{$n}";
            }
            $this->create(EntityKind::LevelScheme, $uid, ['key' => $key] + $scheme->fields());
            $keys[$key] = $uid;
            $this->notes[] = $found === null ? "Level scheme {$scheme->name} is not here yet and is made."
                : "Level scheme {$scheme->key} differs from the one here and is imported as {$key}.";
            $pending = array_filter($plan->levelCodes, static fn (LevelCode $c): bool => $c->scheme === $uid);
            uasort($pending, static fn (LevelCode $a, LevelCode $b): int => $a->level <=> $b->level); // those above come first
            foreach ($pending as $of => $code) {
                $this->create(EntityKind::LevelCode, $of, ['scheme' => $this->uids[$uid],
                    'parent' => $code->parent === null ? null : $this->uids[$code->parent]] + $code->fields());
            }
        }
    }

    /** @return array<string, list<string|null>> codes of a scheme by the codes above them => what else they say */
    private static function levelCodes(Plan $plan, string $scheme): array
    {
        $codes = [];
        foreach ($plan->levelCodes as $code) {
            $path = $code->code;
            for ($at = $code; $at->parent !== null; $path = "{$at->code}\t{$path}") {
                $at = $plan->levelCodes[$at->parent];
            }
            $code->scheme !== $scheme ?: $codes["{$code->level}\t{$path}"] = [$code->name, $code->below];
        }

        return $codes;
    }

    private function projects(Plan $plan): void
    {
        foreach ($plan->projects as $uid => $project) {
            $fields = $project->fields();
            $fields['key'] = ProjectKeys::free($project->key, $this->keys);
            $this->keys[] = $fields['key'];
            if ($fields['key'] !== $project->key) {
                $this->notes[] = "Project key {$project->key} is taken; the project is imported as {$fields['key']}.";
            }
            $fields['branch'] = $this->branch;
            $fields['calendar'] = $this->uids[$project->calendar];
            $fields['levelScheme'] = $project->levelScheme === null ? null : $this->uids[$project->levelScheme];
            $this->create(EntityKind::Project, $uid, $fields);
        }
    }

    private function rows(Plan $plan): void
    {
        $this->reserve(EntityKind::Link, array_keys($plan->links));
        foreach ([EntityKind::Wbs, EntityKind::Activity, ...EntityKind::standingOnActivities(), EntityKind::Coding,
            EntityKind::OwnValue] as $kind) {
            $this->reserve($kind, array_keys($plan->all($kind)));
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
        $first = array_values($plan->projects)[0] ?? null;
        $far = new FarEnds($this->reach, $this->branch, $this->source, $this->keys, $first === null ? '' : $this->uids[$first->calendar],
            $first === null ? null : new WorkAxis($plan->calendars[$first->calendar], $plan->calendars));
        $far->find($plan);
        array_push($this->operations, ...$far->operations);
        array_push($this->notes, ...$far->notes);
        $joined = 0;
        foreach ($plan->links as $uid => $link) {
            $ends = [];
            foreach (['from' => $link->from, 'to' => $link->to] as $end => $activity) {
                $ends[$end] = isset($plan->stubs[$activity]) ? $far->uids[$activity] ?? null : $this->uids[$activity];
                if ($ends[$end] === null) {
                    $this->notes[] = "The handover {$plan->label($link->from)} → {$plan->label($link->to)} was left out: "
                        ."{$plan->stubs[$activity]->code} is not here.";
                }
            }
            if ($ends['from'] !== null && $ends['to'] !== null) {
                $joined += $far->isHere($link->from) || $far->isHere($link->to) ? 1 : 0;
                $this->operations[] = Operation::create(EntityKind::Link, $this->uids[$uid],
                    EntityKind::Link->brief($ends + $link->fields()));
            }
        }
        if ($joined > 0) {
            $this->notes[] = $joined === 1 ? '1 handover is joined to an activity that is here already.'
                : "{$joined} handovers are joined to activities that are here already.";
        }
    }

    /** @param  array<string, mixed>  $fields */
    private function create(EntityKind $kind, string $uid, array $fields): void
    {
        $this->reserve($kind, [$uid]);
        $this->operations[] = Operation::create($kind, $this->uids[$uid], $fields);
    }

    /**
     * Keeps the uids of the file where they are sound and free, else makes new ones.
     *
     * @param  list<array-key>  $uids
     */
    private function reserve(EntityKind $kind, array $uids): void
    {
        $taken = [];
        foreach (array_chunk($uids, 1000) as $chunk) {
            $taken += DB::table(Table::of($kind)->name())->whereIn('uid', array_map(strval(...), $chunk))->pluck('id', 'uid')->all();
        }
        foreach ($uids as $uid) {
            $here = isset($taken[$uid]) || ! Uid::isSound((string) $uid) ? (string) Str::ulid() : (string) $uid;
            $this->uids[(string) $uid] = $here;
            if (isset($this->given[$uid])) {
                $this->identities[$kind->value][$here] = $this->given[$uid];
            }
        }
    }
}

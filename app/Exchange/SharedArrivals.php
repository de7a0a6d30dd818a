<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Merge;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\Plan;

/**
 * What projects of a file share: calendars, code sets, own fields, level schemes, resources. What is here already and says the same is
 * used, what says something else comes in beside it.
 */
final class SharedArrivals
{
    /** @var list<MappingLine> what is not plainly the same */
    public array $lines = [];

    /** fields that say what a calendar is called, not what it counts */
    private const NAMES = ['key' => 0, 'name' => 0];

    /** what the enterprise has */
    private readonly Plan $ours;

    /** @var array<string, array<array-key, string>> kind => what the source calls it => uid here, from an earlier file */
    private array $before = [];

    /**
     * @param  string  $source  where the file comes from
     * @param  bool  $isOurs  it was written here
     * @param  array<string, array<array-key, string>>  $mapping  kind => what the source calls it => uid here, or nothing; decided by hand
     */
    public function __construct(private readonly Arrivals $here, string $source, private readonly bool $isOurs,
        private readonly array $mapping)
    {
        $this->ours = PlanStore::load([])[0];
        if (! $isOurs && $here->known !== null) {
            /** @var object{kind: string, foreign_id: string, uid: string} $row */
            foreach (DB::table('external_identities')->where('source', $source)
                ->whereIn('kind', [EntityKind::Calendar->value, EntityKind::CodeSet->value, EntityKind::Entry->value,
                    EntityKind::Resource->value])
                ->get(['kind', 'foreign_id', 'uid']) as $row) {
                $this->before[$row->kind][$row->foreign_id] = $row->uid;
            }
        }
    }

    public function take(Plan $plan): void
    {
        $this->calendars($plan);
        $this->codes($plan);
        $this->ownFields($plan);
        $this->levelSchemes($plan);
        $this->resources($plan);
    }

    /**
     * What it is here, as somebody decided, now or with an earlier file.
     *
     * @param  string  $within  uid of the code set that it must be in
     * @return array{string, string}|null uid, nothing for one of its own, and how it was found
     */
    private function decided(EntityKind $kind, string $uid, string $within = ''): ?array
    {
        $foreign = $this->here->foreign($uid);
        $hand = $this->mapping[$kind->value][$foreign] ?? null;
        $found = $hand ?? $this->before[$kind->value][$foreign] ?? ($this->isOurs && $this->here->known !== null ? $uid : '');
        $entity = $found === '' ? null : $this->ours->find($kind, $found);
        if ($entity !== null && ($within === '' || ($entity->fields()['codeSet'] ?? '') === $within)) {
            return [$found, $hand === null ? 'known' : 'hand'];
        }

        return $hand === '' ? ['', 'new'] : null;
    }

    private function line(EntityKind $kind, string $uid, string $label, ?string $to, string $how, ?string $within = null,
        bool $differs = false): void
    {
        $this->lines[] = new MappingLine($kind, $this->here->foreign($uid), $label, $to,
            $to === null ? null : $this->ours->callName($kind, $to), $how, $within, $differs);
    }

    private function calendars(Plan $plan): void
    {
        $here = [];
        foreach ($this->ours->calendars as $calendar) {
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
                $fields['base'] = $calendar->base === null ? null : $this->here->uids[$calendar->base];
                $same = $here[$calendar->key] ?? null;
                $decided = $this->decided(EntityKind::Calendar, (string) $uid);
                if ($decided === null && $same !== null && Merge::same($same->fields(), $fields)) {
                    $this->here->map(EntityKind::Calendar, (string) $uid, $same->uid);

                    continue;
                }
                [$to, $how] = $decided ?? ['', 'new'];
                if ($to !== '') {
                    $this->here->map(EntityKind::Calendar, (string) $uid, $to);
                    $differs = ! Merge::same(array_diff_key($this->ours->calendars[$to]->fields(), self::NAMES),
                        array_diff_key($fields, self::NAMES));
                    if ($differs || $how === 'hand') {
                        $this->line(EntityKind::Calendar, (string) $uid, $calendar->key, $to, $how, differs: $differs);
                    }

                    continue;
                }
                $this->line(EntityKind::Calendar, (string) $uid, $calendar->key, null, $how);
                $key = $calendar->key;
                for ($n = 2; isset($here[$key]); $n++) {
                    $key = "{$calendar->key}-{$n}";
                }
                $fields['key'] = $key;
                if ($key !== $calendar->key) {
                    $this->here->notes[] = "Calendar {$calendar->key} differs from the one here and is imported as {$key}.";
                }
                $this->here->create(EntityKind::Calendar, $uid, $fields);
                $here[$key] = $calendar;
            }
        }
    }

    /** Sets and entries are found by their keys; what is not here is made. */
    private function codes(Plan $plan): void
    {
        $sets = $entries = $made = [];
        foreach ($this->ours->codeSets as $set) {
            $sets["{$set->scope->value} {$set->key}"] = $set->uid;
        }
        foreach ($this->ours->entries as $entry) {
            $entries["{$entry->codeSet} {$entry->key}"] = $entry->uid;
        }
        foreach ($plan->codeSets as $uid => $set) {
            $decided = $this->decided(EntityKind::CodeSet, (string) $uid);
            $found = $decided[0] ?? $sets["{$set->scope->value} {$set->key}"] ?? '';
            $now = $this->ours->codeSets[$found] ?? null;
            if ($now !== null && $now->scope === $set->scope) {
                $this->here->map(EntityKind::CodeSet, (string) $uid, $found);
                $differs = mb_strtolower($now->name) !== mb_strtolower($set->name);
                if ($differs || ($decided[1] ?? '') === 'hand') {
                    $this->line(EntityKind::CodeSet, (string) $uid, "{$set->key} {$set->name}", $found, $decided[1] ?? 'key',
                        differs: $differs);
                }
            } else {
                $key = self::free($set->key, static fn (string $k): bool => isset($sets["{$set->scope->value} {$k}"]));
                $sets["{$set->scope->value} {$key}"] = '';
                $this->here->create(EntityKind::CodeSet, $uid, ['key' => $key] + $set->fields());
                $made[] = "code set {$set->name}";
                $this->line(EntityKind::CodeSet, (string) $uid, "{$set->key} {$set->name}", null, 'new');
            }
        }
        $pending = $plan->entries;
        while ($pending !== []) {
            foreach ($pending as $uid => $entry) {
                if ($entry->parent !== null && isset($pending[$entry->parent])) {
                    continue; // that above it comes first
                }
                unset($pending[$uid]);
                $set = $this->here->uids[$entry->codeSet];
                $decided = $this->decided(EntityKind::Entry, (string) $uid, $set);
                $found = $decided[0] ?? $entries["{$set} {$entry->key}"] ?? '';
                $label = $plan->entryName((string) $uid);
                if ($found !== '') {
                    $this->here->map(EntityKind::Entry, (string) $uid, $found);
                    $differs = mb_strtolower($this->ours->entries[$found]->name) !== mb_strtolower($entry->name);
                    if ($differs || ($decided[1] ?? '') === 'hand') {
                        $this->line(EntityKind::Entry, (string) $uid, $label, $found, $decided[1] ?? 'key', $set, $differs);
                    }

                    continue;
                }
                isset($this->ours->codeSets[$set]) ? $this->line(EntityKind::Entry, (string) $uid, $label, null, 'new', $set) : null;
                $key = self::free($entry->key, static fn (string $k): bool => isset($entries["{$set} {$k}"]));
                $entries["{$set} {$key}"] = '';
                $fields = ['key' => $key, 'codeSet' => $set, 'parent' => $entry->parent === null ? null : $this->here->uids[$entry->parent]]
                    + $entry->fields();
                $this->here->create(EntityKind::Entry, $uid, $this->withFreeName($fields));
                $made[] = "entry {$plan->entryName($uid)}";
            }
        }
        if ($made !== []) {
            $this->here->notes[] = 'Not here yet and made: '.implode(', ',
                array_slice($made, 0, 8)).(count($made) > 8 ? ' and '.(count($made) - 8).' more' : '').'.';
        }
    }

    /** @param  callable(string): bool  $isTaken */
    private static function free(string $key, callable $isTaken): string
    {
        for ($n = 2, $free = $key; $isTaken($free); $n++) {
            $free = mb_substr($key, 0, 16)."-{$n}";
        }

        return $free;
    }

    /**
     * Another entry beside it may have its name, under another key.
     *
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    private function withFreeName(array $fields): array
    {
        foreach ($this->ours->entries as $entry) {
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
        foreach ($this->ours->ownFields as $field) {
            $keys["{$field->scope->value} {$field->key}"] = $field;
            $names["{$field->scope->value} {$field->name}"] = true;
        }
        foreach ($plan->ownFields as $uid => $field) {
            $scope = $field->scope->value;
            $found = $keys["{$scope} {$field->key}"] ?? null;
            if ($found !== null && $found->type === $field->type && $found->formula === $field->formula
                && array_diff(array_column($field->choices, 'name'), array_column($found->choices, 'name')) === []) {
                $this->here->uids[$uid] = $found->uid;

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
            $this->here->create(EntityKind::OwnField, $uid, $fields);
            $keys["{$scope} {$fields['key']}"] = $field;
            $names["{$scope} {$fields['name']}"] = true;
            $this->here->notes[] = $found === null ? "Own field {$fields['name']} is not here yet and is made."
                : "Own field {$field->name} holds something else here; the file’s is made as {$fields['name']} ({$fields['key']}).";
        }
    }

    /** A level scheme that says the same is used, with its codes; what says something else here stands beside it under another key. */
    private function levelSchemes(Plan $plan): void
    {
        $keys = [];
        foreach ($this->ours->levelSchemes as $scheme) {
            $keys[$scheme->key] = $scheme->uid;
        }
        foreach ($plan->levelSchemes as $uid => $scheme) {
            $found = $keys[$scheme->key] ?? null;
            if ($found !== null && Merge::same($this->ours->levelSchemes[$found]->fields(), $scheme->fields())
                && Merge::same(self::levelCodes($this->ours, $found), self::levelCodes($plan, $uid))) {
                $this->here->uids[$uid] = $found;

                continue;
            }
            for ($n = 2, $key = $scheme->key; isset($keys[$key]); $n++) {
                $key = mb_substr($scheme->key, 0, 36)."-{$n}";
            }
            $this->here->create(EntityKind::LevelScheme, $uid, ['key' => $key] + $scheme->fields());
            $keys[$key] = $uid;
            $this->here->notes[] = $found === null ? "Level scheme {$scheme->name} is not here yet and is made."
                : "Level scheme {$scheme->key} differs from the one here and is imported as {$key}.";
            $pending = array_filter($plan->levelCodes, static fn (LevelCode $c): bool => $c->scheme === $uid);
            uasort($pending, static fn (LevelCode $a, LevelCode $b): int => $a->level <=> $b->level); // those above come first
            foreach ($pending as $of => $code) {
                $this->here->create(EntityKind::LevelCode, $of, ['scheme' => $this->here->uids[$uid],
                    'parent' => $code->parent === null ? null : $this->here->uids[$code->parent]] + $code->fields());
            }
        }
    }

    /** Resources are found by what somebody decided, else by their keys where they are the same sort of thing; others are made. */
    private function resources(Plan $plan): void
    {
        $keys = [];
        foreach ($this->ours->resources as $resource) {
            $keys[$resource->key] = $resource;
        }
        foreach ($plan->resources as $uid => $resource) {
            $decided = $this->decided(EntityKind::Resource, (string) $uid);
            $same = $keys[$resource->key] ?? null;
            $found = $decided[0] ?? ($same !== null && $same->kind === $resource->kind ? $same->uid : '');
            $now = $this->ours->resources[$found] ?? null;
            $label = "{$resource->key} {$resource->name}";
            if ($now !== null && $now->isMaterial() === $resource->isMaterial()) {
                $this->here->map(EntityKind::Resource, (string) $uid, $found);
                $differs = $resource->name !== '' && mb_strtolower($now->name) !== mb_strtolower($resource->name);
                if ($differs || ($decided[1] ?? '') === 'hand') {
                    $this->line(EntityKind::Resource, (string) $uid, $label, $found, $decided[1] ?? 'key', differs: $differs);
                }

                continue;
            }
            if ($now !== null) {
                $this->here->notes[] = "{$resource->title()} and {$now->title()} are not of one sort; it is imported by itself.";
            }
            $key = self::free($resource->key, static fn (string $k): bool => isset($keys[$k]));
            $keys[$key] = $resource;
            $this->here->create(EntityKind::Resource, $uid, ['key' => $key, 'calendar' => $resource->calendar === null ? null
                : $this->here->uids[$resource->calendar]] + $resource->fields());
            $this->line(EntityKind::Resource, (string) $uid, $label, null, 'new');
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
}

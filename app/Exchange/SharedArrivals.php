<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Planning\PlanStore;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\Plan;

/**
 * What projects of a file share: calendars, code sets, own fields, level schemes. What is here already and says the same is used, what says
 * something else comes in beside it.
 */
final readonly class SharedArrivals
{
    /** what the enterprise has */
    private Plan $ours;

    public function __construct(private Arrivals $here)
    {
        $this->ours = PlanStore::load([])[0];
    }

    public function take(Plan $plan): void
    {
        $this->calendars($plan);
        $this->codes($plan);
        $this->ownFields($plan);
        $this->levelSchemes($plan);
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
                if ($same !== null && $same->fields() == $fields) {
                    $this->here->uids[$uid] = $same->uid;

                    continue;
                }
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
            $found = $sets["{$set->scope->value} {$set->key}"] ?? null;
            if ($found !== null) {
                $this->here->uids[$uid] = $found;
            } else {
                $this->here->create(EntityKind::CodeSet, $uid, $set->fields());
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
                $set = $this->here->uids[$entry->codeSet];
                $found = $entries["{$set} {$entry->key}"] ?? null;
                if ($found !== null) {
                    $this->here->uids[$uid] = $found;

                    continue;
                }
                $fields = ['codeSet' => $set, 'parent' => $entry->parent === null ? null : $this->here->uids[$entry->parent]]
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
            if ($found !== null && $this->ours->levelSchemes[$found]->fields() == $scheme->fields()
                && self::levelCodes($this->ours, $found) == self::levelCodes($plan, $uid)) {
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

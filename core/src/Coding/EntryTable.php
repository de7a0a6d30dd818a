<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Uid;

/**
 * A code set as a table: key, name, key of the entry above it, description, weight, steward, retired. Entries are known by their
 * keys; those that are there are brought up to date, others are made; nothing is deleted.
 */
final class EntryTable
{
    public const COLUMNS = ['key', 'name', 'parent', 'description', 'weight', 'steward', 'retired'];

    private const YES = ['yes', 'true', '1', 'x'];

    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<array{state: string, label: string|null, set: string|null, entry: string|null, why: string|null}> per row */
    public array $rows = [];

    /**
     * @param  list<array<string, string>>  $rows  column => text
     * @param  string  $uids  what the uids of new entries begin with
     */
    public static function read(CodeSet $set, array $rows, Plan $plan, string $uids): self
    {
        $self = new self;
        $known = $siblings = [];
        foreach ($plan->entries as $entry) {
            if ($entry->codeSet === $set->uid) {
                $known[mb_strtolower($entry->key)] = $entry->uid;
                $siblings[] = $entry->position;
            }
        }
        $position = $siblings === [] ? 0.0 : max($siblings);
        $seen = [];
        foreach ($rows as $at => $row) {
            $key = trim($row['key'] ?? '');
            $name = trim($row['name'] ?? '');
            if ($key === '' && $name !== '') {
                $key = EntryKey::propose($name, static fn (string $k): bool => isset($known[mb_strtolower($k)]), $set->keyLength
                    ?? EntryKey::LENGTH);
            }
            $low = mb_strtolower($key);
            $above = mb_strtolower(trim($row['parent'] ?? ''));
            $weight = str_replace(',', '.', trim($row['weight'] ?? ''));
            $why = match (true) {
                $key === '' => 'has neither key nor name',
                isset($seen[$low]) => "has the key of row {$seen[$low]}",
                $above !== '' && ! isset($known[$above]) => "there is no entry {$row['parent']} above it; rows of those above come first",
                $weight !== '' && (! is_numeric($weight) || $weight < 0 || $weight > 1000) => 'weight must be 0 … 1000',
                default => null,
            };
            if ($why !== null) {
                $self->rows[] = ['state' => 'wrong', 'label' => $key === '' ? $name : $key, 'set' => $set->name, 'entry' => null,
                    'why' => $why];

                continue;
            }
            $seen[$low] = $at + 1;
            $fields = [];
            foreach (['name', 'description', 'steward'] as $field) {
                $fields += array_key_exists($field, $row) && ($row[$field] !== '' || $field !== 'name')
                    ? [$field => $field === 'steward' && trim($row[$field]) === '' ? null : trim($row[$field])] : [];
            }
            $fields += array_key_exists('parent', $row) ? ['parent' => $above === '' ? null : $known[$above]] : [];
            $fields += $weight === '' ? [] : ['weight' => (float) $weight];
            $fields += array_key_exists('retired', $row) ? ['retired' => in_array(mb_strtolower(trim($row['retired'])), self::YES, true)]
                : [];
            $self->rows[] = ['state' => $self->entry($set, $known[$low] ?? null, $key, $fields, ++$position, $plan, $uids), 'label' => $key,
                'set' => $set->name, 'entry' => $name, 'why' => null];
            $known[$low] ??= Uid::of("{$uids}:entry:{$set->uid}:{$low}");
        }

        return $self;
    }

    /** @param  array<string, mixed>  $fields */
    private function entry(CodeSet $set, ?string $uid, string $key, array $fields, float $position, Plan $plan, string $uids): string
    {
        if ($uid === null || ! isset($plan->entries[$uid])) {
            $this->operations[] = Operation::create(EntityKind::Entry, Uid::of("{$uids}:entry:{$set->uid}:".mb_strtolower($key)),
                $fields + ['codeSet' => $set->uid, 'key' => $key, 'name' => $key, 'position' => $position]);

            return 'new';
        }
        $now = $plan->entries[$uid]->fields();
        $differing = array_filter($fields, static fn (mixed $value, string $field): bool => $value !== $now[$field], ARRAY_FILTER_USE_BOTH);
        if ($differing === []) {
            return 'same';
        }
        $this->operations[] = Operation::update(EntityKind::Entry, $uid, $differing, array_intersect_key($now, $differing));

        return 'changed';
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Resource;

use Reihe\Core\Change\Operation;
use Reihe\Core\Coding\EntryKey;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\ResourceKind;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Plan\WholeDays;

/**
 * Resources as a table: key, name, sort, key of the calendar, percent of one that there are, money per hour, per use and per unit of a
 * material with its unit, placeholder, days from and until which it is there, retired. Resources are known by their keys; those that are
 * there are brought up to date by the columns that a row has, others are made; nothing is deleted.
 */
final class ResourceTable
{
    public const COLUMNS = ['key', 'name', 'kind', 'calendar', 'units', 'rate', 'costPerUse', 'unit', 'price', 'placeholder', 'from', 'to',
        'retired'];

    private const YES = ['yes', 'true', '1', 'x'];

    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<array{state: string, label: string|null, set: string|null, entry: string|null, why: string|null}> per row */
    public array $rows = [];

    /** @var array<string, string> key in small letters => uid */
    private array $known = [];

    /** @var array<string, string> key of a calendar in small letters => uid */
    private array $calendars = [];

    private function __construct(private readonly Plan $plan, private readonly string $uids)
    {
        foreach ($plan->resources as $resource) {
            $this->known[mb_strtolower($resource->key)] = $resource->uid;
        }
        foreach ($plan->calendars as $calendar) {
            $this->calendars[mb_strtolower($calendar->key)] = $calendar->uid;
        }
    }

    /**
     * @param  list<array<string, string>>  $rows  column => text
     * @param  string  $uids  what the uids of new ones begin with
     */
    public static function read(array $rows, Plan $plan, string $uids): self
    {
        $self = new self($plan, $uids);
        $seen = [];
        foreach ($rows as $at => $row) {
            [$key, $name] = [trim($row['key'] ?? ''), trim($row['name'] ?? '')];
            $key = $key !== '' || $name === '' ? $key : EntryKey::propose($name,
                static fn (string $k): bool => isset($self->known[mb_strtolower($k)]), EntryKey::LENGTH);
            $low = mb_strtolower($key);
            try {
                $state = match (true) {
                    $key === '' => throw new InvalidField('key', 'or a name is missing'),
                    isset($seen[$low]) => throw new InvalidField('key', "is that of row {$seen[$low]}"),
                    default => $self->row($key, $self->known[$low] ?? null, $row),
                };
                $seen[$low] = $at + 1;
                $self->rows[] = ['state' => $state, 'label' => $key, 'set' => null, 'entry' => $name, 'why' => null];
            } catch (InvalidField $e) {
                $self->rows[] = ['state' => 'wrong', 'label' => $key === '' ? $name : $key, 'set' => null, 'entry' => null,
                    'why' => $e->getMessage()];
            }
        }

        return $self;
    }

    /**
     * @param  array<string, string>  $row
     *
     * @throws InvalidField
     */
    private function row(string $key, ?string $uid, array $row): string
    {
        $fields = [];
        foreach (array_diff_key(array_intersect_key($row, array_flip(self::COLUMNS)), ['key' => 0]) as $column => $text) {
            $text = trim($text);
            $column === 'name' && $text === '' ?: $fields[$column] = $this->value($column, $text);
        }
        $now = $uid === null ? null : $this->plan->resources[$uid] ?? null;
        if ($now === null) {
            $fields = array_filter($fields, static fn (mixed $v): bool => $v !== null) + ['key' => $key, 'name' => $key];
            if (($fields['kind'] ?? null) !== ResourceKind::Material->value) {
                $fields += ['calendar' => array_values($this->calendars)[0] ?? null];
            }
            $made = Uid::of("{$this->uids}:resource:".mb_strtolower($key));
            EntityKind::Resource->read($made, $fields);
            $this->operations[] = Operation::create(EntityKind::Resource, $made, $fields);

            return 'new';
        }
        $was = $now->fields();
        $fields = array_replace(array_intersect_key(['units' => 100, 'unit' => '', 'placeholder' => false, 'retired' => false], $fields),
            array_filter($fields, static fn (mixed $v): bool => $v !== null)) + $fields;
        $differing = array_filter($fields, static fn (mixed $v, string $f): bool => $v !== $was[$f]
            // a day means the hour that is there already
            && ! (is_string($v) && is_string($was[$f]) && WholeDays::isOne($v) && str_starts_with($was[$f], $v)), ARRAY_FILTER_USE_BOTH);
        if ($differing === []) {
            return 'same';
        }
        EntityKind::Resource->read($now->uid, $differing + $was);
        $this->operations[] = Operation::update(EntityKind::Resource, $now->uid, $differing, array_intersect_key($was, $differing));

        return 'changed';
    }

    /**
     * @return string|int|bool|null in written form; null where nothing is said
     *
     * @throws InvalidField
     */
    private function value(string $column, string $text): string|int|bool|null
    {
        if ($text === '') {
            return in_array($column, ['placeholder', 'retired'], true) ? false : null;
        }

        return match ($column) {
            'kind' => ResourceKind::tryFrom(mb_strtolower($text))->value ?? throw new InvalidField('kind',
                'is one of '.implode(', ', array_map(static fn (ResourceKind $k): string => $k->value, ResourceKind::cases()))),
            'calendar' => $this->calendars[mb_strtolower($text)] ?? throw new InvalidField('calendar', "there is no calendar {$text}"),
            'units' => self::number($column, rtrim($text, " %\u{a0}"), 1),
            'rate', 'costPerUse', 'price' => self::number($column, $text, 100),
            'placeholder', 'retired' => in_array(mb_strtolower($text), self::YES, true),
            'from', 'to' => preg_match('/^\d{4}-\d\d-\d\d([T ]\d\d:\d\d)?$/D', $text) === 1 ? str_replace(' ', 'T', $text)
                : throw new InvalidField($column, 'is a day, like 2027-03-08'),
            default => $text,
        };
    }

    private static function number(string $column, string $text, int $scale): int
    {
        $plain = str_replace([' ', "\u{a0}", ','], ['', '', '.'], $text);
        if (preg_match('/^\d{1,9}(\.\d{1,2})?$/D', $plain) !== 1) {
            throw new InvalidField($column, 'is no number');
        }
        [$whole, $part] = [...explode('.', $plain), ''];

        return (int) $whole * $scale + ($scale === 1 ? 0 : (int) str_pad($part, 2, '0'));
    }
}

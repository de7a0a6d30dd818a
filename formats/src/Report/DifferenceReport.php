<?php

declare(strict_types=1);

namespace Reihe\Formats\Report;

use Reihe\Core\Change\Merge;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Time\Instant;

/**
 * How one plan differs from another: objects that are new, gone or changed, each by what it is called. Objects are the same where their
 * uids are, else where they are called the same. The order of rows does not count.
 *
 * @phpstan-type Difference array{change: 'new'|'gone'|'changed', kind: string, name: string,
 *     fields: array<string, array{mixed, mixed}>}
 */
final class DifferenceReport
{
    private const SIGNS = ['new' => '+', 'gone' => '-', 'changed' => '~'];

    /** what is a matter of where a plan stands */
    private const PASSED_OVER = ['position', 'branch'];

    /** @var array<string, array<array-key, string>> kind => uid in the second plan => uid in the first */
    private array $same = [];

    private function __construct(private readonly Plan $from, private readonly Plan $to)
    {
        $this->stubs();
        foreach (EntityKind::cases() as $kind) {
            $ours = $this->from->all($kind);
            $called = [];
            foreach ($ours as $uid => $entity) {
                $called[$this->from->callName($kind, (string) $uid)][] = (string) $uid;
            }
            $theirs = $this->to->all($kind);
            foreach ($theirs as $uid => $entity) {
                $alike = $called[$this->to->callName($kind, (string) $uid)] ?? [];
                if (isset($ours[$uid])) {
                    $this->same[$kind->value][$uid] = (string) $uid;
                } elseif (count($alike) === 1 && ! isset($theirs[$alike[0]])) {
                    $this->same[$kind->value][$uid] = $alike[0];
                }
            }
        }
    }

    /** Far ends whose projects are not in the file: a stub may be an activity in the other one. */
    private function stubs(): void
    {
        $ours = $labels = [];
        foreach ([$this->from->stubs, $this->from->activities] as $list) {
            foreach (array_keys($list) as $uid) {
                $ours[(string) $uid] = true;
                $labels[$this->from->label((string) $uid)] = (string) $uid;
            }
        }
        foreach ([$this->to->stubs, $this->to->activities] as $list) {
            foreach (array_keys($list) as $uid) {
                $same = isset($ours[$uid]) ? (string) $uid : $labels[$this->to->label((string) $uid)] ?? null;
                $same === null ?: $this->same[EntityKind::Activity->value][$uid] ??= $same;
            }
        }
    }

    /** @return list<Difference> */
    public static function data(Plan $from, Plan $to): array
    {
        return (new self($from, $to))->differences();
    }

    public static function text(Plan $from, Plan $to): string
    {
        $text = '';
        foreach (self::data($from, $to) as $d) {
            $text .= self::SIGNS[$d['change']]." {$d['kind']} {$d['name']}\n";
            foreach ($d['fields'] as $field => [$before, $after]) {
                $text .= "    {$field}: ".self::written($before).' → '.self::written($after)."\n";
            }
        }

        return $text === '' ? "no difference\n" : $text;
    }

    /**
     * The same by kind and field, to say what did not come through.
     *
     * @return list<string> like `3 remarks` and `deadline of 2 activities`
     */
    public static function lost(Plan $whole, Plan $carried): array
    {
        $gone = $changed = [];
        foreach (self::data($whole, $carried) as $d) {
            if ($d['change'] === 'gone') {
                $gone[$d['kind']] = ($gone[$d['kind']] ?? 0) + 1;
            }
            foreach (array_keys($d['fields']) as $field) {
                $changed["{$d['kind']} {$field}"] = ($changed["{$d['kind']} {$field}"] ?? 0) + 1;
            }
        }
        $lost = [];
        foreach ($gone as $kind => $count) {
            $lost[] = EntityKind::from($kind)->entry()->counted($count);
        }
        foreach ($changed as $what => $count) {
            [$kind, $field] = explode(' ', $what, 2);
            $lost[] = "{$field} of ".(EntityKind::tryFrom($kind)?->entry()->counted($count)
                ?? ($count === 1 ? '1 stub' : "{$count} stubs"));
        }

        return $lost;
    }

    /** @return list<Difference> */
    private function differences(): array
    {
        $found = [];
        foreach (EntityKind::cases() as $kind) {
            $same = $this->same[$kind->value] ?? [];
            foreach (array_diff_key($this->from->all($kind), array_flip($same)) as $uid => $entity) {
                $found[] = ['change' => 'gone', 'kind' => $kind->value, 'name' => $this->from->callName($kind, (string) $uid),
                    'fields' => []];
            }
            foreach ($this->to->all($kind) as $uid => $entity) {
                $name = $this->to->callName($kind, (string) $uid);
                $fields = isset($same[$uid]) ? $this->fields($kind, $same[$uid], (string) $uid) : [];
                if (! isset($same[$uid])) {
                    $found[] = ['change' => 'new', 'kind' => $kind->value, 'name' => $name, 'fields' => []];
                } elseif ($fields !== []) {
                    $found[] = ['change' => 'changed', 'kind' => $kind->value, 'name' => $name, 'fields' => $fields];
                }
            }
        }

        $same = $this->same[EntityKind::Activity->value] ?? [];
        foreach ($this->to->stubs as $uid => $stub) {
            $was = $this->from->stubs[$same[$uid] ?? ''] ?? null;
            $fields = array_filter(['name' => [$was?->name, $stub->name], 'start' => [self::moment($was?->start),
                self::moment($stub->start)],
                'finish' => [self::moment($was?->finish), self::moment($stub->finish)]], static fn (array $f): bool => $f[0] !== $f[1]);
            if ($was !== null && $fields !== []) {
                $found[] = ['change' => 'changed', 'kind' => 'stub', 'name' => $stub->code, 'fields' => $fields];
            }
        }

        return $found;
    }

    private static function moment(?int $moment): ?string
    {
        return Instant::formatOrNull($moment);
    }

    /** @return array<string, array{mixed, mixed}> field => before and after, references as what they are called */
    private function fields(EntityKind $kind, string $ours, string $theirs): array
    {
        $before = $this->from->find($kind, $ours)?->fields() ?? [];
        $after = $this->to->find($kind, $theirs)?->fields() ?? [];
        $references = [];
        foreach ($kind->entry()->references as $reference) {
            $references[$reference->field] = $reference->to;
        }
        $differing = [];
        foreach (array_diff_key($after, array_flip(self::PASSED_OVER)) as $field => $value) {
            $was = $before[$field] ?? null;
            $to = $references[$field] ?? null;
            if ($to !== null && is_string($value)) {
                if (($this->same[$to->value][$value] ?? null) !== $was) {
                    $differing[$field] = [is_string($was) ? $this->from->callName($to, $was) : null, $this->to->callName($to, $value)];
                }
            } elseif (! Merge::same($was, $value)) {
                $differing[$field] = [$to !== null && is_string($was) ? $this->from->callName($to, $was) : $was, $value];
            }
        }

        return $differing;
    }

    private static function written(mixed $value): string
    {
        return match (true) {
            $value === null, $value === '' => '–',
            is_string($value) => $value,
            default => (string) json_encode($value, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES),
        };
    }
}

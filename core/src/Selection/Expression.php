<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

/**
 * Which rows are meant: tests joined by and, or, not. One object for screens, feeds and exports, evaluated in memory
 * ({@see matches()}) or as SQL, with equal results. Every test is true or false; what is empty passes none but `empty`.
 *
 * Written: `{"all": [ … ]}`, `{"any": [ … ]}`, `{"not": … }`, or a test, see {@see Test}.
 */
abstract readonly class Expression
{
    private const DEPTH = 12;

    private const MOST = 200;

    /**
     * @param  array<string, mixed>  $row  column => value; `statusDate` and `day` (minutes of a day) besides
     * @param  array<string, Column>  $columns
     * @param  int  $today  where a project has no status date
     */
    abstract public function matches(array $row, array $columns, int $today): bool;

    /** @return array<string, mixed> */
    abstract public function toArray(): array;

    /** @return iterable<Test> */
    abstract public function tests(): iterable;

    /**
     * @param  array<string, Column>  $columns  that may be tested
     *
     * @throws InvalidSelection
     */
    public static function read(mixed $data, array $columns): self
    {
        $left = self::MOST;

        return self::part($data, $columns, '', 0, $left);
    }

    /** @param  array<string, Column>  $columns */
    private static function part(mixed $data, array $columns, string $at, int $depth, int &$left): self
    {
        if (! is_array($data) || $data === []) {
            throw new InvalidSelection($at, 'must be an object');
        }
        if ($depth > self::DEPTH || --$left < 0) {
            throw new InvalidSelection($at, 'is too long');
        }
        foreach (['all', 'any'] as $joined) {
            if (array_key_exists($joined, $data)) {
                self::only($data, [$joined], $at);
                $list = $data[$joined];
                if (! is_array($list) || ! array_is_list($list)) {
                    throw new InvalidSelection("{$at}/{$joined}", 'must be a list');
                }
                $parts = [];
                foreach ($list as $i => $part) {
                    $parts[] = self::part($part, $columns, "{$at}/{$joined}/{$i}", $depth + 1, $left);
                }

                return $joined === 'all' ? new AllOf($parts) : new AnyOf($parts);
            }
        }
        if (array_key_exists('not', $data)) {
            self::only($data, ['not'], $at);

            return new Not(self::part($data['not'], $columns, "{$at}/not", $depth + 1, $left));
        }

        return Test::of($data, $columns, $at);
    }

    /**
     * @param  array<array-key, mixed>  $data
     * @param  list<string>  $names
     */
    protected static function only(array $data, array $names, string $at): void
    {
        foreach (array_keys($data) as $name) {
            if (! in_array($name, $names, true)) {
                throw new InvalidSelection("{$at}/{$name}", 'is not known');
            }
        }
    }
}

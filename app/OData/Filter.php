<?php

declare(strict_types=1);

namespace App\OData;

use Reihe\Core\CoreException;
use Reihe\Core\Time\Instant;

/**
 * `$filter` (OData 4.01 URL Conventions, section 5.1.1) as SQL with bindings: comparisons, in, and, or, not,
 * parentheses, contains, startswith, endswith, tolower, toupper, length, year, month, day. Errors name the position.
 */
final class Filter
{
    /** conditions, negations and parentheses in one filter */
    private const DEEPEST = 200;

    private const COMPARE = ['eq' => '=', 'ne' => '<>', 'gt' => '>', 'ge' => '>=', 'lt' => '<', 'le' => '<='];

    /** @var list<array{string, string, int}> kind, text, position */
    private array $tokens = [];

    private int $at = 0;

    private int $depth = 0;

    /** @var list<mixed> */
    private array $bindings = [];

    private function __construct(private readonly EntitySet $set, private readonly string $text)
    {
        $pattern = '/\G(?:(?<space>\s+)|(?<string>\'(?:[^\']|\'\')*\')|(?<duration>duration\'[^\']*\')'
            .'|(?<moment>\d{4}-\d\d-\d\d(?:T\d\d:\d\d(?::\d\d(?:\.\d+)?)?(?:Z|[+-]\d\d:\d\d)?)?)'
            .'|(?<number>-?\d+(?:\.\d+)?)|(?<word>[A-Za-z_][\w]*)|(?<sign>[(),]))/';
        for ($offset = 0; $offset < strlen($text); $offset += strlen($m[0])) {
            if (preg_match($pattern, $text, $m, 0, $offset) !== 1) {
                throw $this->error('cannot be read', $offset);
            }
            foreach (['string', 'duration', 'moment', 'number', 'word', 'sign'] as $kind) {
                if (($m[$kind] ?? '') !== '') {
                    $this->tokens[] = [$kind, $m[$kind], $offset];
                }
            }
        }
    }

    /**
     * @return array{string, list<mixed>} SQL and bindings
     *
     * @throws ODataError
     */
    public static function sql(EntitySet $set, string $text): array
    {
        $self = new self($set, $text);
        $sql = $self->or();
        if ($self->at < count($self->tokens)) {
            throw $self->error("“{$self->tokens[$self->at][1]}” is not expected here", $self->tokens[$self->at][2]);
        }

        return [$sql, $self->bindings];
    }

    private function or(): string
    {
        $sql = $this->and();
        while ($this->take('word', 'or')) {
            $sql = "({$sql} OR {$this->and()})";
        }

        return $sql;
    }

    private function and(): string
    {
        $sql = $this->unary();
        while ($this->take('word', 'and')) {
            $sql = "({$sql} AND {$this->unary()})";
        }

        return $sql;
    }

    private function unary(): string
    {
        if (++$this->depth > self::DEEPEST) {
            throw $this->error('more than '.self::DEEPEST.' conditions or parentheses', $this->tokens[$this->at][2] ?? strlen($this->text));
        }
        if ($this->take('word', 'not')) {
            return "(NOT {$this->unary()})";
        }
        if ($this->take('sign', '(')) {
            $sql = $this->or();
            $this->expect(')');

            return "({$sql})";
        }

        return $this->comparison();
    }

    private function comparison(): string
    {
        $start = $this->at;
        $bound = $this->bindings;
        [$left, $type] = $this->operand(null);
        $word = $this->tokens[$this->at] ?? null;
        if ($word !== null && $word[1] === 'in') {
            $this->at++;
            $this->expect('(');
            $list = [];
            do {
                if (count($list) === self::DEEPEST) {
                    throw $this->error('more than '.self::DEEPEST.' values', $this->tokens[$this->at][2] ?? strlen($this->text));
                }
                $list[] = $this->operand($type)[0];
            } while ($this->take('sign', ','));
            $this->expect(')');

            return "({$left} IN (".implode(', ', $list).'))';
        }
        if ($word === null || ! isset(self::COMPARE[$word[1]])) {
            if ($type === EdmType::Bool) {
                return "({$left} = 1)";
            }
            throw $this->error('a comparison such as eq or gt is expected', $word[2] ?? strlen($this->text));
        }
        $this->at++;
        if ($type === null) { // a literal first: its type follows from the other side
            [, $other] = $this->operand(null);
            $this->at = $start;
            $this->bindings = $bound;
            [$left] = $this->operand($other);
            $this->at++;
            [$right] = $this->operand($other);

            return $left === 'NULL' ? self::againstNull($right, $word[1]) : "({$left} ".self::COMPARE[$word[1]]." {$right})";
        }
        [$right] = $this->operand($type);
        if ($right === 'NULL') {
            return self::againstNull($left, $word[1]);
        }

        return $word[1] === 'ne' ? "({$left} <> {$right} OR {$left} IS NULL)" : "({$left} ".self::COMPARE[$word[1]]." {$right})";
    }

    private static function againstNull(string $operand, string $word): string
    {
        return match ($word) {
            'eq' => "({$operand} IS NULL)",
            'ne' => "({$operand} IS NOT NULL)",
            default => '(1 = 0)',
        };
    }

    /**
     * @param  EdmType|null  $as  type that a literal must take
     * @return array{string, EdmType|null} SQL and type, null for a literal of unknown use
     */
    private function operand(?EdmType $as): array
    {
        [$kind, $text, $position] = $this->tokens[$this->at++] ?? ['', '', strlen($this->text)];
        if ($kind === 'word' && ($this->tokens[$this->at][1] ?? '') === '(' && $text !== 'in') {
            return $this->call($text, $position);
        }
        if ($kind === 'word') {
            return match ($text) {
                'null' => ['NULL', null],
                'true', 'false' => [$text === 'true' ? '1' : '0', $as],
                default => $this->column($text),
            };
        }
        if (! in_array($kind, ['string', 'moment', 'number', 'duration'], true)) {
            throw $this->error($kind === '' ? 'something is missing at the end' : "“{$text}” is not expected here", $position);
        }
        $this->bindings[] = $this->literal($kind, $text, $as, $position);

        return ['?', null];
    }

    private function literal(string $kind, string $text, ?EdmType $as, int $position): mixed
    {
        $wrong = $as !== null && match ($as) {
            EdmType::Text => $kind !== 'string',
            EdmType::Moment => $kind !== 'moment',
            EdmType::Span => $kind !== 'duration',
            EdmType::Bool => true,
            default => $kind !== 'number',
        };
        if ($wrong) {
            throw $this->error("{$text} is not a value of type {$as->value}", $position);
        }
        try {
            return match ($kind) {
                'string' => str_replace("''", "'", substr($text, 1, -1)),
                'moment' => Instant::parse((string) preg_replace('/(?<=\d\d:\d\d)(:\d\d)?(\.\d+)?(Z|[+-]\d\d:\d\d)?$/', '', $text)),
                'duration' => \Reihe\Formats\Todo\Duration::parse(substr($text, 9, -1)),
                default => $as === EdmType::Hours ? (float) $text * 60 : (float) $text,
            };
        } catch (CoreException|\Reihe\Formats\FormatError $e) {
            throw $this->error($e->getMessage(), $position);
        }
    }

    /** @return array{string, EdmType} */
    private function column(string $name): array
    {
        $property = $this->set->property($name);

        return [$property->sql, $property->type];
    }

    /** @return array{string, EdmType} */
    private function call(string $name, int $position): array
    {
        $this->expect('(');
        $first = $this->operand(null)[0];
        if (in_array($name, ['contains', 'startswith', 'endswith'], true)) {
            $this->expect(',');
            $second = $this->operand(EdmType::Text)[0];
            $this->expect(')');

            return [match ($name) {
                'contains' => "(LOCATE({$second}, {$first}) > 0)",
                'startswith' => "(LOCATE({$second}, {$first}) = 1)",
                default => "({$first} LIKE CONCAT('%', REPLACE(REPLACE({$second}, '%', '\\\\%'), '_', '\\\\_')))",
            }, EdmType::Bool];
        }
        $this->expect(')');
        $date = "DATE_ADD('2000-01-01', INTERVAL {$first} MINUTE)";

        return match ($name) {
            'tolower' => ["LOWER({$first})", EdmType::Text],
            'toupper' => ["UPPER({$first})", EdmType::Text],
            'length' => ["CHAR_LENGTH({$first})", EdmType::Int],
            'year' => ["YEAR({$date})", EdmType::Int],
            'month' => ["MONTH({$date})", EdmType::Int],
            'day' => ["DAY({$date})", EdmType::Int],
            default => throw $this->error("the function “{$name}” is not known", $position),
        };
    }

    private function take(string $kind, string $text): bool
    {
        if (($this->tokens[$this->at][0] ?? '') === $kind && $this->tokens[$this->at][1] === $text) {
            $this->at++;

            return true;
        }

        return false;
    }

    private function expect(string $sign): void
    {
        if (! $this->take('sign', $sign)) {
            throw $this->error("“{$sign}” is expected", $this->tokens[$this->at][2] ?? strlen($this->text));
        }
    }

    private function error(string $why, int $position): ODataError
    {
        return new ODataError(400, '$filter, position '.($position + 1).": {$why}.", '$filter');
    }
}

<?php

declare(strict_types=1);

namespace App\Selection;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Selection\AllOf;
use Reihe\Core\Selection\AnyOf;
use Reihe\Core\Selection\Expression;
use Reihe\Core\Selection\Not;
use Reihe\Core\Selection\Operator;
use Reihe\Core\Selection\Test;
use Reihe\Core\Selection\ValueKind;
use Reihe\Core\Time\Instant;

/** An expression as a condition in SQL that holds for exactly the rows for which it is true in memory. */
final readonly class SqlCondition
{
    public function __construct(private SqlColumns $source, private int $today)
    {
    }

    public function of(Expression $expression): string
    {
        return match (true) {
            $expression instanceof AllOf => $this->joined($expression->parts, ' AND ', '1'),
            $expression instanceof AnyOf => $this->joined($expression->parts, ' OR ', '0'),
            $expression instanceof Not => "NOT ({$this->of($expression->part)})",
            $expression instanceof Test => "COALESCE({$this->test($expression)}, 0)",
            default => throw new \LogicException($expression::class),
        };
    }

    /** @param  list<Expression>  $parts */
    private function joined(array $parts, string $with, string $none): string
    {
        return $parts === [] ? $none : '('.implode($with, array_map($this->of(...), $parts)).')';
    }

    private function test(Test $test): string
    {
        $column = $this->source->columns()[$test->field];
        $sql = $this->source->sql($test->field);
        if ($column->kind === ValueKind::Tree) {
            return $test->operator === Operator::Empty ? "NOT {$sql})"
                : "{$sql} AND e.uid IN ".$this->list($test->nodes($column)).')';
        }
        if ($test->operator === Operator::Empty) {
            return in_array($column->kind, [ValueKind::Text, ValueKind::Choice], true) ? "COALESCE({$sql}, '') = ''" : "({$sql}) IS NULL";
        }
        if ($test->other !== null) {
            $other = $this->source->sql($test->other);

            return $column->kind === ValueKind::Moment && $test->operator === Operator::Is ? self::day($sql).' = '.self::day($other)
                : "({$sql}) ".self::sign($test->operator)." ({$other})";
        }

        return match ($column->kind) {
            ValueKind::Text => $this->text($test, $sql),
            ValueKind::Choice => "({$sql}) IN ".$this->list(is_array($test->value) ? $test->value : []),
            ValueKind::Flag => "({$sql}) = ".($test->value === true ? '1' : '0'),
            ValueKind::Number => "({$sql}) ".self::sign($test->operator).' '.$this->number($test->value, $column->scale),
            default => $this->moment($test, $sql),
        };
    }

    /** Compared letter by letter, in small letters, blanks at the end included. */
    private function text(Test $test, string $sql): string
    {
        $found = "LOWER(CONVERT(({$sql}) USING utf8mb4)) COLLATE utf8mb4_nopad_bin";
        $wanted = $this->quoted(is_string($test->value) ? $test->value : '');

        return "({$sql}) <> '' AND ".match ($test->operator) {
            Operator::Contains => "INSTR({$found}, {$wanted}) > 0",
            Operator::Begins => "INSTR({$found}, {$wanted}) = 1",
            default => "{$found} = {$wanted}",
        };
    }

    private function number(mixed $value, ?int $scale): string
    {
        $typed = is_int($value) || is_float($value) ? $value : 0;
        if ($scale !== null) {
            return self::literal($typed * $scale);
        }
        $cases = '';
        foreach ($this->source->days() as $calendar => $minutes) {
            $cases .= " WHEN {$calendar} THEN ".self::literal($typed * $minutes);
        }

        return $cases === '' ? 'NULL' : "CASE {$this->source->calendar()}{$cases} END";
    }

    private function moment(Test $test, string $sql): string
    {
        $value = is_int($test->value) ? $test->value : 0;
        $status = "COALESCE({$this->source->statusDate()}, {$this->today})";

        return match ($test->operator) {
            Operator::Is => self::day($sql).' = '.Test::day($value),
            Operator::Next => "({$sql}) >= {$status} AND ({$sql}) < {$status} + {$value}",
            Operator::Last => "({$sql}) < {$status} AND ({$sql}) >= {$status} - {$value}",
            default => "({$sql}) ".self::sign($test->operator)." {$value}",
        };
    }

    private static function day(string $sql): string
    {
        return "FLOOR(({$sql}) / ".Instant::DAY.') * '.Instant::DAY;
    }

    private static function sign(Operator $operator): string
    {
        return match ($operator) {
            Operator::Less => '<',
            Operator::AtMost => '<=',
            Operator::More => '>',
            Operator::AtLeast => '>=',
            default => '=',
        };
    }

    /** The same number that PHP calculates with. */
    private static function literal(int|float $number): string
    {
        return is_int($number) ? (string) $number : sprintf('%.17e', $number);
    }

    /** @param  list<string>  $texts */
    private function list(array $texts): string
    {
        return $texts === [] ? '(NULL)' : '('.implode(', ', array_map($this->quoted(...), $texts)).')';
    }

    private function quoted(string $text): string
    {
        return (string) DB::connection()->getPdo()->quote($text);
    }
}

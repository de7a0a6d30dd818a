<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\ODataError;
use Reihe\Core\Time\Instant;

/** The functions of expressions with the types of their arguments (URL Conventions 4.01, sections 5.1.1.5 to 5.1.1.10). */
final class Functions
{
    private const TEXT = [EdmType::Text];

    private const NUMBER = [EdmType::Int, EdmType::Hours, EdmType::Ratio];

    private const MOMENT = [EdmType::Moment, EdmType::Stamp];

    /**
     * @param  list<Node>  $arguments
     *
     * @throws ODataError
     */
    public static function make(string $function, string $written, int $at, array $arguments, string $option): Node
    {
        if ($function === 'case') {
            return self::cases($at, $arguments, $option);
        }
        if (in_array($function, ['now', 'mindatetime', 'maxdatetime'], true)) {
            return $arguments === [] ? self::moment($function, $at)
                : throw Lexer::error($option, $at, "{$function} takes no values");
        }
        [$takes, $type] = self::signature($function)
            ?? throw Lexer::error($option, $at, "the function “{$written}” is not known");
        $least = $function === 'substring' ? 2 : count($takes);
        if (count($arguments) < $least || count($arguments) > count($takes)) {
            throw Lexer::error($option, $at, "{$function} takes ".($least === count($takes) ? $least : "{$least} or ".count($takes))
                .(count($takes) === 1 ? ' value' : ' values'));
        }
        foreach ($arguments as $i => $argument) {
            if ($argument->type !== null && ! in_array($argument->type, $takes[$i], true)) {
                throw Lexer::error($option, $argument->at, Literals::said($argument)." is not a value of type {$takes[$i][0]->edm()}");
            }
        }
        if ($function === 'matchespattern') {
            self::pattern($arguments[1], $option);
        }

        return new Call($function, $type ?? $arguments[0]->type ?? EdmType::Ratio, $at, $arguments);
    }

    /** The type of left operator right; null where they do not go together. */
    public static function result(string $operator, ?EdmType $left, ?EdmType $right): ?EdmType
    {
        $isNumber = [$left?->isNumber() ?? false, $right?->isNumber() ?? false];

        return match (true) {
            $left === null || $right === null => null,
            $isNumber === [true, true] => match (true) {
                $left === EdmType::Ratio || $right === EdmType::Ratio => EdmType::Ratio,
                $left === EdmType::Hours || $right === EdmType::Hours || $operator === 'divby' => EdmType::Hours,
                default => EdmType::Int,
            },
            $left === EdmType::Span && $isNumber[1] && in_array($operator, ['mul', 'div', 'divby'], true) => EdmType::Span,
            $right === EdmType::Span && $isNumber[0] && $operator === 'mul' => EdmType::Span,
            ! in_array($operator, ['add', 'sub'], true) => null,
            $right === EdmType::Span && ($left === EdmType::Span || $left->isMoment()) => $left,
            $operator === 'sub' && $left === $right && $left->isMoment() => EdmType::Span,
            default => null,
        };
    }

    /** @return array{list<list<EdmType>>, EdmType|null}|null what it takes, and gives: null for what its argument is */
    private static function signature(string $function): ?array
    {
        return match ($function) {
            'contains', 'startswith', 'endswith', 'matchespattern' => [[self::TEXT, self::TEXT], EdmType::Bool],
            'indexof' => [[self::TEXT, self::TEXT], EdmType::Int],
            'concat' => [[self::TEXT, self::TEXT], EdmType::Text],
            'substring' => [[self::TEXT, [EdmType::Int], [EdmType::Int]], EdmType::Text],
            'length' => [[self::TEXT], EdmType::Int],
            'tolower', 'toupper', 'trim' => [[self::TEXT], EdmType::Text],
            'year', 'month', 'day' => [[[...self::MOMENT, EdmType::Day]], EdmType::Int],
            'hour', 'minute', 'second' => [[[...self::MOMENT, EdmType::Clock]], EdmType::Int],
            'fractionalseconds' => [[[...self::MOMENT, EdmType::Clock]], EdmType::Hours],
            'date' => [[self::MOMENT], EdmType::Day],
            'time' => [[self::MOMENT], EdmType::Clock],
            'totalseconds' => [[[EdmType::Span]], EdmType::Hours],
            'round', 'floor', 'ceiling' => [[self::NUMBER], null],
            default => null,
        };
    }

    private static function moment(string $function, int $at): Node
    {
        return match ($function) {
            'now' => new Literal(EdmType::Stamp, $at, Literal::number(floor((now()->getTimestamp() - 946_684_800) / 60)), 'now()', true),
            'mindatetime' => new Literal(EdmType::Moment, $at, (string) Instant::MIN, 'mindatetime()'),
            default => new Literal(EdmType::Moment, $at, (string) (Instant::MAX - 1), 'maxdatetime()'),
        };
    }

    /** @param  list<Node>  $arguments */
    private static function cases(int $at, array $arguments, string $option): Node
    {
        $type = null;
        foreach (array_chunk($arguments, 2) as [$condition, $value]) {
            if ($condition->type !== EdmType::Bool) {
                throw Lexer::error($option, $condition->at, 'a condition is expected');
            }
            if ($value->type !== null && $type !== null && $type !== $value->type && ! ($type->isNumber() && $value->type->isNumber())) {
                throw Lexer::error($option, $value->at, 'the values of a case are of one type');
            }
            $type = $type !== null && $type->isNumber() && $value->type !== $type ? EdmType::Ratio : $value->type ?? $type;
        }

        return new Call('case', $type ?? throw Lexer::error($option, $at, 'a case has values'), $at, $arguments);
    }

    /** Must stand there, be readable and not be long: it is tried on every row. */
    private static function pattern(Node $pattern, string $option): void
    {
        if (! $pattern instanceof Literal || $pattern->value === null || strlen($pattern->value) > 100
            || @preg_match('/'.str_replace('/', '\/', $pattern->value).'/u', '') === false) {
            throw Lexer::error($option, $pattern->at, 'a regular expression of at most 100 characters is expected');
        }
    }
}

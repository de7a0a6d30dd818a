<?php

declare(strict_types=1);

namespace Reihe\Core\Formula;

use Reihe\Core\Time\Instant;
use Symfony\Component\ExpressionLanguage\Lexer;
use Symfony\Component\ExpressionLanguage\Node\BinaryNode;
use Symfony\Component\ExpressionLanguage\Node\ConditionalNode;
use Symfony\Component\ExpressionLanguage\Node\ConstantNode;
use Symfony\Component\ExpressionLanguage\Node\FunctionNode;
use Symfony\Component\ExpressionLanguage\Node\NameNode;
use Symfony\Component\ExpressionLanguage\Node\Node;
use Symfony\Component\ExpressionLanguage\Node\NullCoalescedNameNode;
use Symfony\Component\ExpressionLanguage\Node\NullCoalesceNode;
use Symfony\Component\ExpressionLanguage\Node\UnaryNode;
use Symfony\Component\ExpressionLanguage\Parser;
use Symfony\Component\ExpressionLanguage\SyntaxError;

/**
 * An expression over the fields of an activity, like `totalFloat < 5 and own("RISK") == "high" ? "watch" : ""`. Read by
 * symfony/expression-language, worked out here: only what is listed here can be said, and nothing reaches beyond the values given.
 * Moments are days since 2000-01-01, lengths days; an unknown value makes what is calculated from it unknown (null).
 */
final readonly class Formula
{
    /** name => what it holds */
    public const VARIABLES = ['project' => 'text', 'code' => 'text', 'name' => 'text', 'wbs' => 'text', 'responsible' => 'text',
        'kind' => 'text', 'calendar' => 'text', 'start' => 'date', 'finish' => 'date', 'lateStart' => 'date', 'lateFinish' => 'date',
        'actualStart' => 'date', 'actualFinish' => 'date', 'statusDate' => 'date', 'deadline' => 'date', 'duration' => 'number',
        'remaining' => 'number', 'totalFloat' => 'number', 'freeFloat' => 'number', 'critical' => 'flag', 'nearCritical' => 'flag',
        'estimate' => 'flag', 'progress' => 'number', 'finished' => 'flag', 'work' => 'number', 'cost' => 'number'];

    /** name => how many arguments: least, most */
    public const FUNCTIONS = ['own' => [1, 1], 'min' => [1, 9], 'max' => [1, 9], 'round' => [1, 2], 'abs' => [1, 1], 'floor' => [1, 1],
        'ceil' => [1, 1], 'date' => [1, 1], 'year' => [1, 1], 'month' => [1, 1], 'lower' => [1, 1],
        'length' => [1, 1]];

    private const OPERATORS = ['or', '||', 'and', '&&', '==', '!=', '<', '>', '<=', '>=', '+', '-', '~', '*', '/', '%', '**', 'contains',
        'starts with', 'ends with'];

    private const MOST_NODES = 200;

    private const MOST_TEXT = 500;

    private function __construct(private Node $root)
    {
    }

    /** @throws InvalidFormula */
    public static function of(string $text): self
    {
        try {
            $unused = static fn (): null => null;
            $functions = array_fill_keys(array_keys(self::FUNCTIONS), ['compiler' => $unused, 'evaluator' => $unused]);
            $root = (new Parser($functions))->parse((new Lexer)->tokenize($text), array_keys(self::VARIABLES));
        } catch (SyntaxError $e) {
            throw new InvalidFormula(preg_replace('/ for expression `.*`(?=\.| |$)/s', '', $e->getMessage()) ?? $e->getMessage());
        }
        $count = 0;
        self::check($root, $count);

        return new self($root);
    }

    /**
     * @param  array<string, string|int|float|bool|null>  $values  by the names of {@see VARIABLES}; those that are missing are unknown
     * @param  callable(string): (string|float|bool|null)  $own  value of an own field by its key
     */
    public function evaluate(array $values, callable $own): string|float|bool|null
    {
        return self::value($this->root, $values, $own);
    }

    /** @throws InvalidFormula for what the language could say and formulas cannot */
    private static function check(Node $node, int &$count): void
    {
        if (++$count > self::MOST_NODES) {
            throw new InvalidFormula('The formula is too long.');
        }
        $operator = self::text($node->attributes['operator'] ?? null);
        $known = match (true) {
            $node instanceof BinaryNode => in_array($operator, self::OPERATORS, true),
            $node instanceof UnaryNode => in_array($operator, ['!', 'not', '+', '-'], true),
            $node instanceof ConstantNode => ! is_array($node->attributes['value'] ?? null),
            $node instanceof FunctionNode => true,
            default => $node instanceof ConditionalNode || $node instanceof NameNode || $node instanceof NullCoalesceNode
                || $node instanceof NullCoalescedNameNode,
        };
        if (! $known) {
            throw new InvalidFormula($operator === '' ? 'Formulas have no lists, properties and methods.'
                : "The operator “{$operator}” cannot be used in a formula.");
        }
        if ($node instanceof FunctionNode) {
            $name = self::text($node->attributes['name'] ?? null);
            $arguments = self::arguments($node);
            [$least, $most] = self::FUNCTIONS[$name];
            if (count($arguments) < $least || count($arguments) > $most) {
                throw new InvalidFormula("“{$name}” takes ".($least === $most ? $least : "{$least} to {$most}").' values.');
            }
            if ($name === 'date' && $arguments[0] instanceof ConstantNode) {
                self::day($arguments[0]->attributes['value'] ?? null) ?? throw new InvalidFormula(
                    'A date is written like date("2027-03-01").');
            }
            array_map(static function (Node $n) use (&$count): void {
                self::check($n, $count);
            }, $arguments);

            return;
        }
        foreach (self::below($node) as $child) {
            self::check($child, $count);
        }
    }

    /**
     * @param  array<string, string|int|float|bool|null>  $values
     * @param  callable(string): (string|float|bool|null)  $own
     */
    private static function value(Node $node, array $values, callable $own): string|float|bool|null
    {
        $below = self::below($node);
        $of = static fn (string $child): string|float|bool|null => self::value($below[$child], $values, $own);
        if ($node instanceof ConstantNode) {
            return self::plain($node->attributes['value'] ?? null);
        }
        if ($node instanceof NameNode || $node instanceof NullCoalescedNameNode) {
            return self::plain($values[self::text($node->attributes['name'] ?? null)] ?? null);
        }
        if ($node instanceof ConditionalNode) {
            return self::holds($of('expr1')) ? $of('expr2') : $of('expr3');
        }
        if ($node instanceof NullCoalesceNode) {
            return $of('expr1') ?? $of('expr2');
        }
        if ($node instanceof UnaryNode) {
            $value = $of('node');

            return match ($node->attributes['operator'] ?? null) {
                '-' => is_float($value) ? -$value : null,
                '+' => is_float($value) ? $value : null,
                default => ! self::holds($value),
            };
        }
        if ($node instanceof FunctionNode) {
            return self::call(self::text($node->attributes['name'] ?? null),
                array_map(static fn (Node $n): string|float|bool|null => self::value($n, $values, $own), self::arguments($node)), $own);
        }
        $operator = self::text($node->attributes['operator'] ?? null);
        $left = $of('left');
        if (in_array($operator, ['and', '&&'], true)) {
            return self::holds($left) && self::holds($of('right'));
        }
        if (in_array($operator, ['or', '||'], true)) {
            return self::holds($left) || self::holds($of('right'));
        }

        return self::both($operator, $left, $of('right'));
    }

    private static function both(string $operator, string|float|bool|null $left, string|float|bool|null $right): string|float|bool|null
    {
        if ($operator === '==' || $operator === '!=') {
            $same = is_string($left) && is_string($right) ? mb_strtolower($left) === mb_strtolower($right) : $left === $right;

            return $same === ($operator === '==');
        }
        if ($operator === '~') {
            return mb_substr(self::shown($left).self::shown($right), 0, self::MOST_TEXT);
        }
        if (is_string($left) && is_string($right)) {
            return match ($operator) {
                '<' => strcmp($left, $right) < 0,
                '>' => strcmp($left, $right) > 0,
                '<=' => strcmp($left, $right) <= 0,
                '>=' => strcmp($left, $right) >= 0,
                'contains' => mb_stripos($left, $right) !== false,
                'starts with' => str_starts_with(mb_strtolower($left), mb_strtolower($right)),
                'ends with' => str_ends_with(mb_strtolower($left), mb_strtolower($right)),
                default => null,
            };
        }
        if (! is_float($left) || ! is_float($right)) {
            return null;
        }

        return match ($operator) {
            '<' => $left < $right,
            '>' => $left > $right,
            '<=' => $left <= $right,
            '>=' => $left >= $right,
            '+' => self::finite($left + $right),
            '-' => self::finite($left - $right),
            '*' => self::finite($left * $right),
            '/' => $right === 0.0 ? null : self::finite($left / $right),
            '%' => $right === 0.0 ? null : fmod($left, $right),
            '**' => self::finite($left ** $right),
            default => null,
        };
    }

    /**
     * @param  list<string|float|bool|null>  $given
     * @param  callable(string): (string|float|bool|null)  $own
     */
    private static function call(string $name, array $given, callable $own): string|float|bool|null
    {
        $first = $given[0] ?? null;
        $numbers = array_values(array_filter($given, is_float(...)));

        return match ($name) {
            'own' => is_string($first) ? $own($first) : null,
            'min' => $numbers === [] ? null : min($numbers),
            'max' => $numbers === [] ? null : max($numbers),
            'round' => is_float($first) ? round($first, is_float($given[1] ?? null) ? (int) max(-9, min(9, $given[1])) : 0) : null,
            'abs' => is_float($first) ? abs($first) : null,
            'floor' => is_float($first) ? floor($first) : null,
            'ceil' => is_float($first) ? ceil($first) : null,
            'date' => self::day($first),
            'year' => self::ofDate($first, 0, 4),
            'month' => self::ofDate($first, 5, 2),
            'lower' => is_string($first) ? mb_strtolower($first) : null,
            'length' => is_string($first) ? (float) mb_strlen($first) : null,
            default => null,
        };
    }

    /** A part of a date as a number; nothing where no plan has such a day. */
    private static function ofDate(mixed $days, int $from, int $length): ?float
    {
        $text = is_float($days) ? self::moment($days) : '';

        return $text === '' ? null : (float) substr($text, $from, $length);
    }

    /** Days since 2000-01-01 as ISO 8601; empty where no plan has such a day. */
    public static function moment(float $days): string
    {
        $minutes = round(max(-1e7, min(1e7, $days)) * 1440);

        return $minutes < Instant::MIN || $minutes >= Instant::MAX ? '' : Instant::format((int) $minutes);
    }

    private static function day(mixed $text): ?float
    {
        try {
            return is_string($text) ? Instant::parse($text) / 1440 : null;
        } catch (\Reihe\Core\Time\InvalidInstant) {
            return null;
        }
    }

    private static function plain(mixed $value): string|float|bool|null
    {
        return is_int($value) ? (float) $value : (is_string($value) || is_float($value) || is_bool($value) ? $value : null);
    }

    private static function finite(float $value): ?float
    {
        return is_finite($value) ? $value : null;
    }

    private static function holds(string|float|bool|null $value): bool
    {
        return $value !== null && $value !== false && $value !== 0.0 && $value !== '';
    }

    private static function shown(string|float|bool|null $value): string
    {
        return match (true) {
            is_bool($value) => $value ? 'yes' : 'no',
            is_float($value) => self::number($value),
            default => $value ?? '',
        };
    }

    /** A number as it is written, at most nine places after the point. */
    public static function number(float $value): string
    {
        $rounded = round($value, 9);

        return abs($rounded) < 1e15 ? rtrim(rtrim(sprintf('%.9F', $rounded), '0'), '.') : '';
    }

    /** @return list<Node> */
    private static function arguments(FunctionNode $node): array
    {
        $below = self::below($node)['arguments'] ?? null;

        return $below === null ? [] : array_values(self::below($below));
    }

    /** @return array<array-key, Node> */
    private static function below(Node $node): array
    {
        return array_filter($node->nodes, static fn (mixed $n): bool => $n instanceof Node);
    }

    private static function text(mixed $value): string
    {
        return is_string($value) ? $value : '';
    }
}

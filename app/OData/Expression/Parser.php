<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\EntitySet;
use App\OData\Model;
use App\OData\ODataError;

/**
 * Reads expressions (URL Conventions 4.01, section 5.1.1) into a tree with types; precedence as in its section 5.1.1.16. Names of
 * operators and functions in any case. What the standard has and this service has not is refused with 501.
 */
final class Parser
{
    /** operations, calls and parentheses in one expression */
    private const MOST = 400;

    /** parentheses inside parentheses */
    private const DEEPEST = 60;

    private const ELSEWHERE = ['isof', 'cast', 'geo', 'hassubset', 'hassubsequence', 'totaloffsetminutes'];

    /** @var list<array{string, string, int}> */
    private readonly array $tokens;

    private int $at = 0;

    private int $nodes = 0;

    private int $depth = 0;

    /** @var array<string, array{string, EntitySet}> variables of any and all: the name of their row and what it is */
    private array $variables = [];

    private int $rows = 0;

    /** @param  array<string, string>  $aliases  `@name` => expression (URL Conventions 4.01, section 5.3) */
    private function __construct(private readonly EntitySet $set, private readonly string $row, private readonly string $text,
        private readonly string $option, private readonly array $aliases, private readonly bool $isAlias = false)
    {
        $this->tokens = Lexer::tokens($text, $option);
    }

    /**
     * @param  string  $row  name of the row in SQL
     * @param  array<string, string>  $aliases
     *
     * @throws ODataError
     */
    public static function condition(EntitySet $set, string $text, array $aliases = [], string $row = 'r', string $option = '$filter'): Node
    {
        $node = self::expression($set, $text, $option, $aliases, $row);

        return $node->type === EdmType::Bool || $node->type === null ? $node
            : throw Lexer::error($option, $node->at, 'a condition is expected, with a comparison such as eq or gt');
    }

    /**
     * @param  array<string, string>  $aliases
     *
     * @throws ODataError
     */
    public static function expression(EntitySet $set, string $text, string $option, array $aliases = [], string $row = 'r'): Node
    {
        $self = new self($set, $row, $text, $option, $aliases);
        $node = $self->or();
        if ($self->at < count($self->tokens)) {
            throw $self->unexpected();
        }

        return $node;
    }

    /** A way to a property, or nothing else. */
    public static function member(EntitySet $set, string $text, string $option, string $row = 'r'): Member
    {
        $node = self::expression($set, $text, $option, row: $row);

        return $node instanceof Member ? $node : throw Lexer::error($option, $node->at, 'a property is expected');
    }

    private function or(): Node
    {
        if (++$this->depth > self::DEEPEST) {
            throw $this->error('more than '.self::DEEPEST.' parentheses inside each other');
        }
        $node = $this->and();
        while ($this->takeWord('or') !== null) {
            $node = $this->counted(new Logic('or', $node->at, $this->boolean($node), $this->boolean($this->and())));
        }
        $this->depth--;

        return $node;
    }

    private function and(): Node
    {
        $node = $this->equality();
        while ($this->takeWord('and') !== null) {
            $node = $this->counted(new Logic('and', $node->at, $this->boolean($node), $this->boolean($this->equality())));
        }

        return $node;
    }

    private function equality(): Node
    {
        $node = $this->relational();
        while (($word = $this->takeWord('eq', 'ne', 'in', 'has')) !== null) {
            $node = match ($word) {
                'in' => $this->membership($node),
                'has' => throw $this->error('“has” is not supported; nothing here has flags', 501),
                default => $this->compared($word, $node, $this->relational()),
            };
        }

        return $node;
    }

    private function relational(): Node
    {
        $node = $this->additive();
        while (($word = $this->takeWord('gt', 'ge', 'lt', 'le')) !== null) {
            $node = $this->compared($word, $node, $this->additive());
        }

        return $node;
    }

    private function additive(): Node
    {
        $node = $this->multiplicative();
        while (($word = $this->takeWord('add', 'sub')) !== null) {
            $node = $this->calculated($word, $node, $this->multiplicative());
        }

        return $node;
    }

    private function multiplicative(): Node
    {
        $node = $this->unary();
        while (($word = $this->takeWord('mul', 'div', 'divby', 'mod')) !== null) {
            $node = $this->calculated($word, $node, $this->unary());
        }

        return $node;
    }

    private function unary(): Node
    {
        $at = $this->position();
        if ($this->takeWord('not') !== null) {
            return $this->counted(new Logic('not', $at, $this->boolean($this->deeper())));
        }
        if ($this->take('-')) {
            $node = $this->deeper();

            return $node->type?->isNumber() || $node->type === EdmType::Span ? $this->counted(new Arithmetic('negate', $node->type, $node))
                : throw Lexer::error($this->option, $node->at, 'a number or a duration is expected after “-”');
        }

        return $this->primary();
    }

    /** What a sign stands before: signs before signs are as deep as parentheses. */
    private function deeper(): Node
    {
        if (++$this->depth > self::DEEPEST) {
            throw $this->error('more than '.self::DEEPEST.' signs inside each other');
        }
        $node = $this->unary();
        $this->depth--;

        return $node;
    }

    private function primary(): Node
    {
        [$kind, $text, $at] = $this->tokens[$this->at] ?? throw $this->unexpected();
        if ($this->take('(')) {
            $node = $this->or();
            $this->expect(')');

            return $this->counted($node);
        }
        $this->at++;
        if ($kind === 'alias') {
            return $this->alias($text, $at);
        }
        if ($kind === 'word') {
            if (($this->tokens[$this->at][1] ?? '') === '(') {
                return $this->call(strtolower($text), $text, $at);
            }

            return match (strtolower($text)) {
                'null' => new Literal(null, $at, null, $text),
                'true', 'false' => new Literal(EdmType::Bool, $at, strtolower($text) === 'true' ? '1' : '0', $text),
                default => $this->path($text, $at),
            };
        }
        if ($kind === 'sign') {
            $this->at--;
            throw $this->unexpected();
        }

        return Literals::read($kind, $text, $at, $this->option);
    }

    private function alias(string $name, int $at): Node
    {
        if ($this->isAlias) {
            throw Lexer::error($this->option, $at, 'an alias cannot name another one');
        }
        $text = $this->aliases[$name] ?? throw Lexer::error($this->option, $at, "the alias {$name} is not given");
        $inner = new self($this->set, $this->row, $text, $name, [], true);
        $node = $inner->or();

        return $inner->at < count($inner->tokens) ? throw $inner->unexpected() : $node;
    }

    private function path(string $first, int $at): Node
    {
        [$row, $set] = $this->variables[$first] ?? [$this->row, $this->set];
        $name = $first;
        if (isset($this->variables[$first]) || $first === '$it') {
            $this->expect('/');
            $name = $this->word();
        }
        $steps = [];
        while (true) {
            if ($steps === [] && ! $set->isEntities) { // what $apply made: its properties may have ways as names
                while (! isset($set->properties[$name]) && $this->take('/')) {
                    $name .= '/'.$this->word();
                }
            }
            if (! isset($set->navigations[$name])) {
                return new Member(new Path($row, $steps), $set->property($name, $this->option, $at), $at);
            }
            $step = $set->navigations[$name];
            $steps[] = $step;
            $set = Model::set($step->target);
            $this->expect('/');
            $name = $this->word();
            if ($step->many) {
                return $this->quantifier(strtolower($name), new Path($row, $steps), $set, $at);
            }
        }
    }

    private function quantifier(string $which, Path $path, EntitySet $set, int $at): Node
    {
        $row = $this->row.'_'.++$this->rows;
        if ($which === '$count') {
            $condition = null;
            if ($this->take('(')) {
                if (strtolower($this->word()) !== '$filter') {
                    throw $this->error('only $filter can be given to $count', 501);
                }
                $this->expect('=');
                $condition = $this->inner('', $row, $set);
                $this->expect(')');
            }

            return $this->counted(new Quantifier('count', $at, $path, $row, $condition));
        }
        if (! in_array($which, ['any', 'all'], true)) {
            throw $this->error('a relation to many is followed by any, all or $count');
        }
        $this->expect('(');
        if ($which === 'any' && $this->take(')')) {
            return $this->counted(new Quantifier('any', $at, $path, $row, null));
        }
        $variable = $this->word();
        $this->expect(':');
        $condition = $this->inner($variable, $row, $set);
        $this->expect(')');

        return $this->counted(new Quantifier($which, $at, $path, $row, $condition));
    }

    /** A condition about other rows, under a variable or, where that is empty, by their own names. */
    private function inner(string $variable, string $row, EntitySet $set): Node
    {
        if (isset($this->variables[$variable])) {
            throw $this->error("the variable “{$variable}” is in use");
        }
        if ($variable === '') {
            $inner = new self($set, $row, $this->text, $this->option, $this->aliases);
            $inner->at = $this->at;
            $inner->nodes = $this->nodes;
            $inner->depth = $this->depth;
            $node = $inner->boolean($inner->or());
            [$this->at, $this->nodes] = [$inner->at, $inner->nodes];

            return $node;
        }
        $this->variables[$variable] = [$row, $set];
        $node = $this->boolean($this->or());
        unset($this->variables[$variable]);

        return $node;
    }

    private function call(string $function, string $text, int $at): Node
    {
        if (in_array($function, self::ELSEWHERE, true) || str_contains($function, 'geo.')) {
            throw Lexer::error($this->option, $at, "the function {$function} is not supported", 501);
        }
        $this->expect('(');
        $arguments = [];
        if (! $this->take(')')) {
            do {
                $arguments[] = $this->or();
                if ($function === 'case') {
                    $this->expect(':');
                    $arguments[] = $this->or();
                }
            } while ($this->take(','));
            $this->expect(')');
        }

        if ($function === 'matchespattern' && isset($arguments[1])) {
            $pattern = $arguments[1];
            $why = $pattern instanceof Literal ? Pattern::fault((string) $pattern->value) : 'a pattern is given as a text in quotes';
            $why === null ?: throw Lexer::error($this->option, $pattern->at, $why);
        }

        return $this->counted(Functions::make($function, $text, $at, $arguments, $this->option));
    }

    private function membership(Node $left): Node
    {
        $this->expect('(');
        $node = null;
        do {
            $equal = $this->compared('eq', $left, $this->additive());
            $node = $node === null ? $equal : $this->counted(new Logic('or', $left->at, $node, $equal));
        } while ($this->take(','));
        $this->expect(')');

        return $node;
    }

    private function compared(string $operator, Node $left, Node $right): Node
    {
        [$left, $right] = Literals::alike($left, $right, $this->option);

        return $this->counted(new Comparison($operator, $left, $right));
    }

    private function calculated(string $operator, Node $left, Node $right): Node
    {
        [$left, $right] = Literals::alike($left, $right, $this->option, false);
        $type = Functions::result($operator, $left->type, $right->type)
            ?? throw Lexer::error($this->option, $left->at, "“{$operator}” does not go with ".Literals::said($left).' and '
                .Literals::said($right));
        if (in_array($operator, ['div', 'divby', 'mod'], true) && $right instanceof Literal && (float) $right->value === 0.0) {
            throw Lexer::error($this->option, $right->at, 'nothing is divided by 0');
        }

        return $this->counted(new Arithmetic($operator, $type, $left, $right));
    }

    private function boolean(Node $node): Node
    {
        return $node->type === EdmType::Bool || $node->type === null ? $node
            : throw Lexer::error($this->option, $node->at, 'a condition is expected, with a comparison such as eq or gt');
    }

    private function counted(Node $node): Node
    {
        return ++$this->nodes <= self::MOST ? $node : throw $this->error('more than '.self::MOST.' operations');
    }

    private function takeWord(string ...$words): ?string
    {
        [$kind, $text] = $this->tokens[$this->at] ?? ['', '', 0];
        if ($kind !== 'word' || ! in_array(strtolower($text), $words, true)) {
            return null;
        }
        $this->at++;

        return strtolower($text);
    }

    private function take(string $sign): bool
    {
        if (($this->tokens[$this->at][0] ?? '') === 'sign' && $this->tokens[$this->at][1] === $sign) {
            $this->at++;

            return true;
        }

        return false;
    }

    private function expect(string $sign): void
    {
        if (! $this->take($sign)) {
            throw $this->error("“{$sign}” is expected");
        }
    }

    private function word(): string
    {
        [$kind, $text] = $this->tokens[$this->at++] ?? ['', '', 0];
        if ($kind !== 'word') {
            $this->at--;
            throw $this->error('a name is expected');
        }

        return $text;
    }

    private function position(): int
    {
        return $this->tokens[$this->at][2] ?? strlen($this->text) + 1;
    }

    private function unexpected(): ODataError
    {
        return $this->error(isset($this->tokens[$this->at]) ? "“{$this->tokens[$this->at][1]}” is not expected here"
            : 'something is missing at the end');
    }

    private function error(string $why, int $status = 400): ODataError
    {
        return Lexer::error($this->option, $this->position(), $why, $status);
    }
}

<?php

declare(strict_types=1);

namespace Tests\Mutation;

use PhpParser\Node;
use PhpParser\Node\Expr;
use PhpParser\Node\Scalar;
use PhpParser\Node\Stmt;
use PhpParser\NodeFinder;
use PhpParser\ParserFactory;

/**
 * Small faults that somebody might make, each of them one change of a text: comparisons off by one or the other way round, signs, and with
 * or,
 * true with false, numbers one more, conditions negated, statements left out.
 */
final class Mutants
{
    private const SWAPS = ['<' => '<=', '<=' => '<', '>' => '>=', '>=' => '>', '===' => '!==', '!==' => '===', '+' => '-', '-' => '+',
        '*' => '/', '&&' => '||', '||' => '&&', '??' => null];

    /**
     * @return list<array{line: int, what: string, text: string}> the whole text with one fault in it
     */
    public static function of(string $source): array
    {
        $nodes = (new ParserFactory)->createForHostVersion()->parse($source) ?? [];
        $mutants = [];
        $put = static function (Node $node, string $new, string $what) use ($source, &$mutants): void {
            [$from, $to] = [$node->getStartFilePos(), $node->getEndFilePos() + 1];
            if (substr($source, $from, $to - $from) !== $new) {
                $mutants[] = ['line' => $node->getStartLine(), 'what' => $what, 'text' => substr($source, 0, $from).$new.substr($source,
                    $to)];
            }
        };
        $text = static fn (Node $n): string => substr($source, $n->getStartFilePos(), $n->getEndFilePos() + 1 - $n->getStartFilePos());
        foreach ((new NodeFinder)->find($nodes, static fn (Node $n): bool => true) as $n) {
            if ($n instanceof Expr\BinaryOp) {
                $sign = $n->getOperatorSigil();
                $other = self::SWAPS[$sign] ?? null;
                $between = substr($source, $n->left->getEndFilePos() + 1, $n->right->getStartFilePos() - $n->left->getEndFilePos() - 1);
                if ($other !== null) {
                    $put($n, $text($n->left).str_replace($sign, $other, $between).$text($n->right), "{$sign} → {$other}");
                } elseif ($sign === '??') {
                    $put($n, $text($n->right), '?? → its right side');
                }
            } elseif ($n instanceof Scalar\Int_ && $n->value < 10_000 && $n->getStartLine() > 3) { // not the declaration of strict types
                $put($n, (string) ($n->value + 1), "{$n->value} → ".($n->value + 1));
            } elseif ($n instanceof Expr\ConstFetch && in_array($name = strtolower($n->name->toString()), ['true', 'false'], true)) {
                $put($n, $name === 'true' ? 'false' : 'true', "{$name} turned");
            } elseif ($n instanceof Expr\BooleanNot) {
                $put($n, $text($n->expr), '! left out');
            } elseif ($n instanceof Stmt\If_ || $n instanceof Expr\Ternary) {
                $put($n->cond, "! ({$text($n->cond)})", 'condition negated');
            } elseif ($n instanceof Stmt\Expression && ! $n->expr instanceof Expr\Throw_) {
                $put($n, ';', 'statement left out');
            } elseif ($n instanceof Stmt\Continue_ || $n instanceof Stmt\Break_) {
                $n->num !== null || $put($n, $n instanceof Stmt\Continue_ ? 'break;' : 'continue;', 'continue and break changed');
            }
        }

        return $mutants;
    }
}

<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\Sql;

/** add, sub, mul, div, divby, mod, and negation where there is no right side. What is divided by 0 is null. */
final readonly class Arithmetic extends Node
{
    private const SIGNS = ['add' => '+', 'sub' => '-', 'mul' => '*', 'divby' => '/'];

    public function __construct(public string $operator, EdmType $type, public Node $left, public ?Node $right = null)
    {
        parent::__construct($type, $left->at);
    }

    public function sql(Sql $sql): string
    {
        if ($this->right === null) {
            return "(- {$this->left->sql($sql)})";
        }
        $sign = self::SIGNS[$this->operator] ?? match (true) {
            $this->operator === 'mod' => '%',
            $this->left->type === EdmType::Int && $this->right->type === EdmType::Int => 'DIV',
            default => '/',
        };
        $left = $this->minutes($sql, $this->left, $this->right);
        $text = "({$left} {$sign} {$this->minutes($sql, $this->right, $this->left)})";

        return $this->type === EdmType::Day ? "FLOOR({$text} / 1440)" : $text;
    }

    public function isOwn(): bool
    {
        return $this->left->isOwn() && ($this->right?->isOwn() ?? true);
    }

    /** Days count as minutes beside durations, moments and other days. */
    private function minutes(Sql $sql, Node $node, Node $other): string
    {
        return $node->type === EdmType::Day && ! $other->type?->isNumber() ? "({$node->sql($sql)} * 1440)" : $node->sql($sql);
    }
}

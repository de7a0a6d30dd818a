<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\Sql;

/**
 * eq, ne, gt, ge, lt, le (URL Conventions 4.01, section 5.1.1.1): always true or false, also where something is null, which equals
 * null only and is neither more nor less than anything.
 */
final readonly class Comparison extends Node
{
    private const SIGNS = ['gt' => '>', 'ge' => '>=', 'lt' => '<', 'le' => '<='];

    public function __construct(public string $operator, public Node $left, public Node $right)
    {
        parent::__construct(EdmType::Bool, $left->at);
    }

    public function sql(Sql $sql): string
    {
        if (isset(self::SIGNS[$this->operator])) {
            return $this->left->type === null || $this->right->type === null ? '(0)'
                : 'COALESCE('.self::side($sql, $this->left).' '.self::SIGNS[$this->operator].' '.self::side($sql, $this->right).', 0)';
        }
        [$member, $other] = $this->left instanceof Member ? [$this->left, $this->right] : [$this->right, $this->left];
        // uids are compared where they stand, so that their index serves
        $equal = $member instanceof Member && $member->property->isUid && $other instanceof Literal && $other->value !== null
            ? (preg_match('/^[A-Za-z0-9._:@-]{1,140}$/D', $other->value) === 1 ? "({$member->sql($sql)} <=> {$other->sql($sql)})" : '(0)')
            : '('.self::side($sql, $this->left).' <=> '.self::side($sql, $this->right).')';

        return $this->operator === 'eq' ? $equal : "(NOT {$equal})";
    }

    public function isOwn(): bool
    {
        return $this->left->isOwn() && $this->right->isOwn();
    }

    private static function side(Sql $sql, Node $node): string
    {
        return $node->type === EdmType::Text ? $node->exact($sql) : $node->sql($sql);
    }
}

<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\Model;
use App\OData\Navigation;
use App\OData\Sql;

/** A way from a row along its relations. */
final readonly class Path
{
    /** @param  list<Navigation>  $steps */
    public function __construct(public string $row, public array $steps = [])
    {
    }

    /** What the column has at the end of the way; along relations to one. */
    public function value(Sql $sql, string $column): string
    {
        return self::along($sql, $this->row, $this->steps, $column);
    }

    /** `FROM …  WHERE …` of the rows that the last relation leads to, under a name. */
    public function rows(Sql $sql, string $name): string
    {
        $steps = $this->steps;
        $last = array_pop($steps) ?? throw new \LogicException('a way to rows has a step');
        $table = (Model::set($last->target)->table)($sql);
        $ours = self::along($sql, $this->row, $steps, $last->ours);

        return "FROM {$table} {$name} WHERE {$name}.`{$last->theirs}` = {$ours}";
    }

    /** @param  list<Navigation>  $steps */
    private static function along(Sql $sql, string $row, array $steps, string $column): string
    {
        $step = array_shift($steps);
        if ($step === null) {
            return "{$row}.`{$column}`";
        }
        $name = $sql->name();
        $value = self::along($sql, $name, $steps, $column);
        $table = (Model::set($step->target)->table)($sql);

        return "(SELECT {$value} FROM {$table} {$name} WHERE {$name}.`{$step->theirs}` = {$row}.`{$step->ours}`)";
    }
}

<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\Sql;

/** A function of its arguments (URL Conventions 4.01, sections 5.1.1.5 to 5.1.1.10). */
final readonly class Call extends Node
{
    /** @param  list<Node>  $arguments */
    public function __construct(public string $function, EdmType $type, int $at, public array $arguments)
    {
        parent::__construct($type, $at);
    }

    public function sql(Sql $sql): string
    {
        return match ($this->function) {
            'contains' => '('.$this->located($sql).' > 0)',
            'startswith' => "(LEFT({$this->exactly($sql, 0)}, {$this->length($sql, 1)}) = {$this->exactly($sql, 1)})",
            'endswith' => "(RIGHT({$this->exactly($sql, 0)}, {$this->length($sql, 1)}) = {$this->exactly($sql, 1)})",
            'matchespattern' => "({$this->exactly($sql, 0)} REGEXP {$this->plain($sql, 1)})",
            'indexof' => '('.$this->located($sql).' - 1)',
            'concat' => "CONCAT({$this->utf8($sql, 0)}, {$this->utf8($sql, 1)})",
            'substring' => "SUBSTRING({$this->utf8($sql, 0)}, GREATEST({$this->plain($sql, 1)}, 0) + 1"
                .(isset($this->arguments[2]) ? ", {$this->plain($sql, 2)})" : ')'),
            'length' => $this->length($sql, 0),
            'tolower' => "LOWER({$this->utf8($sql, 0)})",
            'toupper' => "UPPER({$this->utf8($sql, 0)})",
            'trim' => "REGEXP_REPLACE({$this->utf8($sql, 0)}, '^\\\\s+|\\\\s+$', '')",
            'year', 'month', 'day' => strtoupper($this->function)."({$this->day($sql)})",
            'date' => "FLOOR({$this->plain($sql, 0)} / 1440)",
            'time' => "MOD({$this->unsigned($sql)}, 1440)",
            'hour' => "(MOD({$this->unsigned($sql)}, 1440) DIV 60)",
            'minute' => "FLOOR(MOD({$this->unsigned($sql)}, 60))",
            'second' => "FLOOR(MOD({$this->unsigned($sql)} * 60, 60))",
            'fractionalseconds' => "MOD({$this->unsigned($sql)} * 60, 1)",
            'totalseconds' => "({$this->plain($sql, 0)} * 60)",
            'round' => "ROUND(CAST({$this->plain($sql, 0)} AS DECIMAL(40, 10)))",
            'floor' => "FLOOR({$this->plain($sql, 0)})",
            'ceiling' => "CEILING({$this->plain($sql, 0)})",
            'case' => $this->cases($sql),
            default => throw new \LogicException("{$this->function} is not written"),
        };
    }

    public function isOwn(): bool
    {
        foreach ($this->arguments as $argument) {
            if (! $argument->isOwn()) {
                return false;
            }
        }

        return true;
    }

    private function plain(Sql $sql, int $i): string
    {
        return $this->arguments[$i]->sql($sql);
    }

    private function utf8(Sql $sql, int $i): string
    {
        return "CONVERT({$this->plain($sql, $i)} USING utf8mb4)";
    }

    private function exactly(Sql $sql, int $i): string
    {
        return $this->arguments[$i]->exact($sql);
    }

    private function length(Sql $sql, int $i): string
    {
        return "CHAR_LENGTH({$this->utf8($sql, $i)})";
    }

    /** The second argument in the first; LOCATE names them the other way round. */
    private function located(Sql $sql): string
    {
        return "INSTR({$this->exactly($sql, 0)}, {$this->exactly($sql, 1)})";
    }

    private function day(Sql $sql): string
    {
        return $this->arguments[0]->type === EdmType::Day ? "DATE_ADD('2000-01-01', INTERVAL {$this->plain($sql, 0)} DAY)"
            : "DATE_ADD('2000-01-01 00:00', INTERVAL FLOOR({$this->plain($sql, 0)}) MINUTE)";
    }

    /** Minutes that are never below 0: ten years (1990) are put before those since 2000. */
    private function unsigned(Sql $sql): string
    {
        return "({$this->plain($sql, 0)} + 5258880)";
    }

    private function cases(Sql $sql): string
    {
        $text = 'CASE';
        foreach (array_chunk($this->arguments, 2) as [$condition, $value]) {
            $text .= " WHEN {$condition->sql($sql)} THEN {$value->sql($sql)}";
        }

        return "({$text} END)";
    }
}

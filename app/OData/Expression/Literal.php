<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\Sql;
use Reihe\Core\Time\Zone;

/** A value that stands in the text. */
final readonly class Literal extends Node
{
    /**
     * @param  string|null  $value  text as it is; anything else as it is written in SQL
     * @param  bool  $isPassing  another one when asked again
     */
    public function __construct(?EdmType $type, int $at, public ?string $value, public string $written = '', public bool $isPassing = false)
    {
        parent::__construct($type, $at);
    }

    public function sql(Sql $sql): string
    {
        return match (true) {
            $this->value === null => 'NULL',
            $this->type === EdmType::Text => $sql->bind($this->value),
            default => $this->value,
        };
    }

    public function exact(Sql $sql): string
    {
        return "{$this->sql($sql)} COLLATE utf8mb4_nopad_bin";
    }

    public function isOwn(): bool
    {
        return ! $this->isPassing;
    }

    /** The same moment for a property of that type. */
    public function as(EdmType $type, Zone $zone): self
    {
        if ($this->type === null || $this->value === null || $this->type === $type) {
            return $this;
        }
        $value = (float) $this->value;
        if ($this->type === EdmType::Day) {
            return new self($type, $this->at, self::number($value * 1440), $this->written, $this->isPassing);
        }
        $whole = (int) floor($value);
        $moved = $type === EdmType::Stamp ? $zone->utc($whole) : $zone->wall($whole);

        return new self($type, $this->at, self::number($moved + $value - $whole), $this->written, $this->isPassing);
    }

    public static function number(float $value): string
    {
        return floor($value) === $value ? (string) (int) $value : rtrim(sprintf('%.6F', $value), '0');
    }
}

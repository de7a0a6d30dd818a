<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\InvalidField;

/** Limits and days of the checks as an enterprise set them; what it did not set is as in the catalogue. */
final readonly class Thresholds
{
    /**
     * @param  array<string, float>  $limits  check => limit
     * @param  array<string, float>  $days  check => days
     */
    public function __construct(private array $limits = [], private array $days = [])
    {
    }

    /**
     * @param  array<array-key, mixed>  $data  check => {limit, days}
     *
     * @throws InvalidField naming the check
     */
    public static function read(array $data): self
    {
        $limits = $days = [];
        foreach ($data as $key => $item) {
            $check = Check::tryFrom((string) $key) ?? throw new InvalidField((string) $key, 'is not a check');
            if (! is_array($item)) {
                throw new InvalidField($check->value, 'must be an object with limit and days');
            }
            /** @var array<string, mixed> $item */
            $f = new Fields($item);
            try {
                $limit = $f->numberOrNull('limit', 0.0, $check->unit() === Unit::Share ? 100.0 : 2.0);
                $long = $f->numberOrNull('days', 0.0, 10_000.0);
                $f->done();
            } catch (InvalidField $e) {
                throw new InvalidField("{$check->value}.{$e->field}", $e->why);
            }
            if ($long !== null && $check->days() === null) {
                throw new InvalidField("{$check->value}.days", 'has nothing to set');
            }
            if ($limit !== null) {
                $limits[$check->value] = $limit;
            }
            if ($long !== null) {
                $days[$check->value] = $long;
            }
        }

        return new self($limits, $days);
    }

    public function limit(Check $check): float
    {
        return $this->limits[$check->value] ?? $check->limit();
    }

    public function days(Check $check): ?float
    {
        return $this->days[$check->value] ?? $check->days();
    }
}

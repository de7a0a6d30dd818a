<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Weighted step inside an activity; ticked ones give its physical progress. */
final readonly class ChecklistItem
{
    public function __construct(public string $name, public float $weight = 1.0, public bool $done = false)
    {
        if ($name === '') {
            throw new InvalidField('checklist', 'every item needs a name');
        }
        if ($weight <= 0) {
            throw new InvalidField('checklist', "the weight of “{$name}” must be above 0");
        }
    }
}

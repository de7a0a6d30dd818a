<?php

declare(strict_types=1);

namespace App\Planning;

/** Computed results of one object, as stored. */
final readonly class ResultRow
{
    /**
     * @param  list<int|string|null>  $values  in the order of {@see Results::COLUMNS}
     * @param  string  $project  uid of the project that has the object
     * @param  string|null  $giver  uid of the project at the other end of a link
     */
    public function __construct(public array $values, public string $project, public ?string $giver = null)
    {
    }
}

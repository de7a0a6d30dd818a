<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What every object of a plan can do: say what kind it is and show itself in written form. */
interface Entity
{
    /**
     * @param  array<string, mixed>  $values  written form
     *
     * @throws InvalidField
     */
    public static function read(string $uid, array $values): self;

    /** Stable identifier, unique in the enterprise. */
    public function uid(): string;

    /**
     * Written form, see {@see Fields}. Reading it again gives an equal object.
     *
     * @return array<string, mixed>
     */
    public function fields(): array;
}

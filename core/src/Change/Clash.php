<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\CoreException;

/** Somebody else changed the same things in the meantime. Carries all conflicts of a change set, not the first. */
final class Clash extends CoreException
{
    /** @param  non-empty-list<Conflict>  $conflicts */
    public function __construct(public readonly array $conflicts)
    {
        $first = $conflicts[0];
        $more = count($conflicts) - 1;
        parent::__construct("{$first->label}: ".($first->field ?? 'it').' was changed by somebody else in the meantime'
            .match ($more) {
                0 => '',
                1 => ', and one more thing',
                default => ", and {$more} more things",
            });
    }
}

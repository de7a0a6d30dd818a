<?php

declare(strict_types=1);

namespace App\Planning;

use App\Models\ChangeSet;

/** A change set is not in the state that a request needs: it was undone, applied or rejected already. */
final class Decided extends \RuntimeException
{
    public function __construct(public readonly ChangeSet $changeSet)
    {
        parent::__construct(($changeSet->items ?? null) !== null
            && $changeSet->state === 'applied' ? 'This proposal was decided in parts; undo the change sets that came of it.'
            : ($changeSet->state === 'applied' ? 'This proposal was applied already.' : "This change set is {$changeSet->state} already."));
    }
}

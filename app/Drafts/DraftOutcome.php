<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Planning\Outcome;

/** What a change did in a draft. */
final readonly class DraftOutcome extends Outcome
{
    public function __construct(public DraftPlan $draft)
    {
        parent::__construct(null, $draft->added, $draft->ripple()->toArray(), $draft->known, $draft->known, $draft->after);
    }
}

<?php

declare(strict_types=1);

namespace App\Drafts;

use App\Planning\Outcome;

/** What a change did in a draft. */
final readonly class DraftOutcome extends Outcome
{
    /** @param  array<string, array{activity: string, stays: \Reihe\Core\Plan\Keeps, follows: \Reihe\Core\Plan\Keeps}>  $kept */
    public function __construct(public DraftPlan $draft, array $kept = [])
    {
        parent::__construct(null, $draft->added, $draft->ripple()->toArray(), $draft->known, $draft->known, $draft->after, [], $kept);
    }
}

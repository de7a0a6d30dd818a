<?php

declare(strict_types=1);

namespace App\Planning;

use App\Models\User;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** A change that has just been written, inside its transaction: what everything that follows from it may know ({@see Follower}). */
final readonly class Committed
{
    /**
     * @param  int  $id  of its change set
     * @param  list<Operation>  $operations  as applied
     * @param  array<string, int>  $revisions  project uid => revision after it
     * @param  list<array{EntityKind, string}>  $along  what no operation names and that belongs elsewhere now
     * @param  array<string, array<string, array{int, int, int, int}>>  $moves  project uid => activity uid => its dates before and after
     * @param  bool  $isPart  its proposal has more
     */
    public function __construct(public int $id, public User $by, public ChangeRequest $request, public array $operations,
        public Plan $before, public Plan $after, public array $revisions, public array $along, public array $moves,
        public bool $isPart)
    {
    }
}

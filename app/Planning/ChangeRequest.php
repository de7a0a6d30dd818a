<?php

declare(strict_types=1);

namespace App\Planning;

use App\Models\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Role;

/** What somebody wants to be done to plan data, and what they saw when they wanted it. */
final readonly class ChangeRequest
{
    /**
     * @param  list<Operation>  $operations
     * @param  array<string, int>  $revisions  project uid => revision that the author saw; deletions are checked against it
     * @param  string  $source  edit, progress, import, undo or demo
     * @param  string|null  $uid  of the change set; sending the same one again changes nothing more
     * @param  ChangeSet|null  $undoes  the applied change set that this one takes back
     * @param  ChangeSet|null  $proposal  the proposed change set that this one applies
     * @param  string|null  $items  states of the proposal's items after it, when this is only part of it
     * @param  \Closure(string, int, int): void|null  $tick hears the step, what is done of it and of how much (0: not known); what it
     *     throws stops the work, of which nothing stays
     * @param  string|null  $step  uid of the change set together with which this one is undone
     * @param  bool  $typed  somebody typed it, so that what follows by rule is still to be found ({@see \Reihe\Core\Resource\Keeping})
     * @param  Role  $role  needed on the branch of every project that is changed
     */
    public function __construct(
        public array $operations,
        public array $revisions = [],
        public string $source = 'edit',
        public string $reason = '',
        public ?string $uid = null,
        public ?ChangeSet $undoes = null,
        public ?ChangeSet $proposal = null,
        public ?string $items = null,
        public Role $role = Role::Planner,
        public ?\Closure $tick = null,
        public ?string $step = null,
        public bool $typed = false,
    ) {
    }
}

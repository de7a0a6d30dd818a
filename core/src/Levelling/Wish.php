<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

/** What is to be levelled, and how. */
final readonly class Wish
{
    /**
     * @param  array<string, true>  $projects  uids of the projects whose work may be held back
     * @param  list<string>|null  $resources  uids of those that are looked at; null for all
     * @param  int|null  $from  moment before which overload is left as it is
     * @param  int|null  $to  moment after which it is
     * @param  bool  $withinFloat  nothing is held back beyond its late start: no project ends later
     * @param  list<Criterion>  $criteria  who goes first, the most important one first
     * @param  array<string, int>  $projectOrder  project uid => place
     * @param  array<string, int>  $codeOrder  activity uid => place of its code
     * @param  array<string, int>  $weights  project uid => how much a day of delay counts; 1 where nothing is said
     * @param  int  $tries  schedules that are made, the first ones by rules, the others by changing good ones
     */
    public function __construct(
        public array $projects,
        public ?array $resources = null,
        public ?int $from = null,
        public ?int $to = null,
        public bool $withinFloat = false,
        public array $criteria = [],
        public array $projectOrder = [],
        public array $codeOrder = [],
        public array $weights = [],
        public int $tries = 200,
        public int $seed = 1,
    ) {
    }
}

<?php

declare(strict_types=1);

namespace App\Levelling;

use Reihe\Core\Levelling\Criterion;

/** What somebody wants to be levelled, as it waits for its turn. Moments are minutes, as everywhere. */
final readonly class LevelWish
{
    /** more tries than anybody waits for */
    public const MOST_TRIES = 20_000;

    public const MOST_SECONDS = 900;

    /**
     * @param  list<string>  $projects  uids, in the order in which they go first where that counts
     * @param  list<string>|null  $resources  uids of those that are looked at; null for all
     * @param  list<Criterion>  $criteria  who goes first
     * @param  string|null  $codeSet  uid of the code set whose order counts, where one does
     * @param  int  $tries  schedules that are made
     * @param  int  $seconds  after which the best one so far is taken
     */
    public function __construct(
        public string $name,
        public array $projects,
        public ?array $resources,
        public ?int $from,
        public ?int $to,
        public bool $withinFloat,
        public array $criteria,
        public ?string $codeSet,
        public int $tries,
        public int $seconds,
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        /** @var array<string, mixed> */
        return ['criteria' => array_map(static fn (Criterion $c): string => $c->value, $this->criteria)] + get_object_vars($this);
    }

    /** @param  array<string, mixed>  $input  as {@see toArray()} made it */
    public static function fromArray(array $input): self
    {
        /** @var array{name: string, projects: list<string>, resources: list<string>|null, from: int|null, to: int|null, withinFloat: bool,
         *     criteria: list<string>, codeSet: string|null, tries: int, seconds: int} $input */
        return new self(...['criteria' => array_map(Criterion::from(...), $input['criteria'])] + $input);
    }
}

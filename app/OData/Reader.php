<?php

declare(strict_types=1);

namespace App\OData;

use App\Access\Reach;
use Reihe\Core\Time\Zone;

/** Who reads, on whose clock, and which sets the token is made for. */
final readonly class Reader
{
    /** @param  list<string>|null  $sets  null for all */
    public function __construct(public Reach $reach, public Zone $zone, private ?array $sets)
    {
    }

    public function mayRead(string $set): bool
    {
        return $this->sets === null || in_array($set, $this->sets, true);
    }

    /** @throws ODataError */
    public function require(string $set): void
    {
        if (! $this->mayRead($set)) {
            throw new ODataError(403, "This token is not made for {$set}.", $set);
        }
    }
}

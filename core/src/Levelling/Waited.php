<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

/** What an activity waited for: a resource, and who held it until it came free; nobody where there was none of it before. */
final readonly class Waited
{
    /** @param  list<string>  $holders  uids of activities */
    public function __construct(public string $resource, public array $holders)
    {
    }
}

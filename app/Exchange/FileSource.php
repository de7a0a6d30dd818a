<?php

declare(strict_types=1);

namespace App\Exchange;

use Reihe\Core\Change\Source;
use Reihe\Core\Plan\EntityKind;

/** A file as a source: what it calls things, what it said of them before, and what it cannot say. */
final readonly class FileSource implements Source
{
    /** @var array<array-key, int|string> uid here => uid in the file */
    private array $inFile;

    public function __construct(private Arrivals $here, private Known $known, private Carried $carried)
    {
        $this->inFile = array_flip($here->uids);
    }

    public function carries(EntityKind $kind): bool
    {
        return $this->carried->carries($kind);
    }

    public function silentOn(EntityKind $kind, string $uid): array
    {
        return $this->carried->silentOn($kind, (string) ($this->inFile[$uid] ?? $uid));
    }

    public function calls(EntityKind $kind, string $uid): ?string
    {
        return $this->known->isOurs ? null : $this->foreign($kind, $uid);
    }

    public function told(EntityKind $kind, string $uid): ?array
    {
        return $this->known->told($kind, $uid);
    }

    public function gone(EntityKind $kind, string $uid): ?array
    {
        $foreign = $this->foreign($kind, $uid);

        return $foreign === null ? null : $this->known->gone($kind, $foreign);
    }

    public function known(EntityKind $kind): array
    {
        return $this->known->all($kind);
    }

    public function updates(string $project): bool
    {
        return isset($this->known->projects[$project]);
    }

    /** Of a file that was never compared with what is here only what it says counts, but of projects that are kept outside. */
    public function isWhole(?string $project): bool
    {
        return $this->known->isOurs || ($this->known->projects[(string) $project] ?? '') === 'outside';
    }

    private function foreign(EntityKind $kind, string $uid): ?string
    {
        return $this->here->identities[$kind->value][$uid] ?? null;
    }
}

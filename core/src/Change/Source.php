<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\EntityKind;

/** Whoever tells of objects time and again: a file, another system, somebody's report. What it says is reconciled with what is here. */
interface Source
{
    /** Does it tell of such objects at all, so that they can be missing in it? */
    public function carries(EntityKind $kind): bool;

    /**
     * Of an object that it would create.
     *
     * @return array<string, mixed> fields that it says nothing of, as keys
     */
    public function silentOn(EntityKind $kind, string $uid): array;

    /** What it calls an object that it would create; null where what it says is not remembered. */
    public function calls(EntityKind $kind, string $uid): ?string;

    /**
     * What it said last of an object that is here.
     *
     * @return array<string, mixed>|null written form; null where it never spoke of it
     */
    public function told(EntityKind $kind, string $uid): ?array;

    /**
     * What it said last of an object that it would create, which was here and is gone.
     *
     * @return array<string, mixed>|null
     */
    public function gone(EntityKind $kind, string $uid): ?array;

    /** @return list<string> uids here of what it knew of */
    public function known(EntityKind $kind): array;

    /** Is a project here one that it brings up to date? */
    public function updates(string $project): bool;

    /** Does it say all there is to say of a project, so that what it leaves out is empty? */
    public function isWhole(?string $project): bool;
}

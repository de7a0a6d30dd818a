<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a user may do on a branch and everything below it; each role includes the ones before it. */
enum Role: string
{
    case Viewer = 'viewer';
    case Contributor = 'contributor';
    case Planner = 'planner';
    case Approver = 'approver';
    case Administrator = 'administrator';

    public function rank(): int
    {
        return (int) array_search($this, self::cases(), true);
    }

    public function reaches(self $needed): bool
    {
        return $this->rank() >= $needed->rank();
    }
}

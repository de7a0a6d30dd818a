<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Who has an object: a project, or the enterprise. Locks, revisions and access follow the owner. */
enum Owner
{
    case Project;
    case Enterprise;
}

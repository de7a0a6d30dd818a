<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What the entries of a code set are for. */
enum CodeScope: string
{
    case Project = 'project';
    case Activity = 'activity';
    case Resource = 'resource';

    public function plural(): string
    {
        return $this === self::Activity ? 'activities' : "{$this->value}s";
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * Where and what for a project is kept: here, elsewhere (another system, another company, or only known from a file), as a template for
 * copying, or as a fragment that is put into projects. Templates and fragments are calculated by themselves and take no progress.
 */
enum Kept: string
{
    case Here = 'here';
    case Outside = 'outside';
    case Template = 'template';
    case Fragment = 'fragment';

    /** Is it a project that work is done in? */
    public function isLive(): bool
    {
        return $this === self::Here || $this === self::Outside;
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Which end of the predecessor asks for which end of the successor (finish, start). */
enum LinkType: string
{
    case FS = 'FS';
    case SS = 'SS';
    case FF = 'FF';
    case SF = 'SF';

    public function leavesFinish(): bool
    {
        return $this === self::FS || $this === self::FF;
    }

    public function entersFinish(): bool
    {
        return $this === self::FF || $this === self::SF;
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a field tells that not everybody may be told: an export leaves it out when that is wanted. */
enum Tells: string
{
    case Money = 'cost';
    case People = 'people';
    case Remarks = 'remarks';
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a field tells that not everybody may be told: an export leaves it out when that is wanted. */
enum Tells: string
{
    case Money = 'cost';
    case People = 'people';
    case Remarks = 'remarks';
    /** a text that names nobody by what it is for; every text says one or the other */
    case Nobody = 'nobody';
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

/** What the limit of a check is measured in. */
enum Unit: string
{
    /** largest share of the population, in percent */
    case Share = 'share';
    /** least value of an index */
    case Index = 'index';
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a resource is. */
enum ResourceKind: string
{
    case Person = 'person';

    /** several alike, who need no names */
    case Crew = 'crew';

    case Equipment = 'equipment';

    /** is used up, in units of its own */
    case Material = 'material';
}

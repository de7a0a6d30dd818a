<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a copy of a project may have or not; kinds and fields that name none always come along. */
enum CopyPart: string
{
    case Activities = 'activities';
    case Codes = 'codes';
    case Work = 'work';
    case Resources = 'resources';
    case Costs = 'costs';
    case Constraints = 'constraints';
    case Deadlines = 'deadlines';
    case Remarks = 'remarks';
    case OwnValues = 'ownValues';
    /** what happened, where it came from: no copy has it */
    case Never = 'never';

    /** @return list<string> those that one may wish */
    public static function wishes(): array
    {
        return array_values(array_diff(array_map(static fn (self $p): string => $p->value, self::cases()), [self::Never->value]));
    }
}

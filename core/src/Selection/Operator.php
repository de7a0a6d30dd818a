<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

/** How a test compares. What is empty passes no operator but {@see Empty}. */
enum Operator: string
{
    /** equal; a moment: on that day; words and trees: one of them */
    case Is = 'is';
    case Contains = 'contains';
    case Begins = 'begins';

    /** less, before */
    case Less = 'less';
    case AtMost = 'atMost';

    /** more, after */
    case More = 'more';
    case AtLeast = 'atLeast';

    /** not before the status date of the row's project, and before it plus a span */
    case Next = 'next';

    /** before the status date of the row's project, and not before it minus a span */
    case Last = 'last';
    case Empty = 'empty';

    public function compares(): bool
    {
        return in_array($this, [self::Is, self::Less, self::AtMost, self::More, self::AtLeast], true);
    }
}

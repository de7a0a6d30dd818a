<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** The format that foreign content is written in. */
enum ForeignFormat: string
{
    /** content lines of RFC 5545, section 3.1, unfolded, one below the other; components among them whole */
    case ICalendar = 'icalendar';

    /** attributes and elements of other namespaces, inside one element of the namespace of plan XML */
    case Xml = 'xml';
}

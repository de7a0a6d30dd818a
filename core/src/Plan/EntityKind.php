<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\Calendar;

/** Kinds of objects in a plan, in the order in which they must be created. */
enum EntityKind: string
{
    case Calendar = 'calendar';
    case Project = 'project';
    case Wbs = 'wbs';
    case Activity = 'activity';
    case Link = 'link';

    /** @param  array<string, mixed>  $fields */
    public function read(string $uid, array $fields): Entity
    {
        return match ($this) {
            self::Calendar => Calendar::read($uid, $fields),
            self::Project => Project::read($uid, $fields),
            self::Wbs => WbsElement::read($uid, $fields),
            self::Activity => Activity::read($uid, $fields),
            self::Link => Link::read($uid, $fields),
        };
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\Calendar;

/**
 * Kinds of objects in a plan, in the order in which they must be created, and the catalogue of what each kind is.
 * Applying, cascades, touched projects, access, revisions and storing read the catalogue; nobody lists kinds by hand.
 */
enum EntityKind: string
{
    case Calendar = 'calendar';
    case Project = 'project';
    case Wbs = 'wbs';
    case Activity = 'activity';
    case Link = 'link';

    public function entry(): KindEntry
    {
        /** @var array<string, KindEntry> $catalogue */
        static $catalogue = [];

        return $catalogue[$this->value] ??= $this->makeEntry();
    }

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

    /** @return list<string> the values, for sentences */
    public static function names(): array
    {
        return array_map(static fn (self $kind): string => $kind->value, self::cases());
    }

    private function makeEntry(): KindEntry
    {
        $project = new Reference('project', self::Project, OnDelete::GoesAlong);
        $calendar = new Reference('calendar', self::Calendar, OnDelete::Refuses);
        $parent = new Reference('parent', self::Wbs, OnDelete::GoesAlong);
        $wbs = new Reference('wbs', self::Wbs, OnDelete::GoesAlong);
        $from = new Reference('from', self::Activity, OnDelete::GoesAlong);
        $to = new Reference('to', self::Activity, OnDelete::GoesAlong);
        $base = new Reference('base', self::Calendar, OnDelete::Refuses);

        return match ($this) {
            self::Calendar => new KindEntry(Calendar::class, 'calendars', Owner::Enterprise, null, [$base], ['key'], 'calendar'),
            self::Project => new KindEntry(Project::class, 'projects', Owner::Project, null, [$calendar], ['key'], 'project'),
            self::Wbs => new KindEntry(WbsElement::class, 'wbs', Owner::Project, $project, [$project, $parent], [], 'WBS element'),
            self::Activity => new KindEntry(Activity::class, 'activities', Owner::Project, $project, [$project, $wbs, $calendar], ['project', 'code'], 'activity'),
            // a link belongs to the project of its successor
            self::Link => new KindEntry(Link::class, 'links', Owner::Project, $to, [$from, $to], ['from', 'to', 'type'], 'link'),
        };
    }
}

<?php

declare(strict_types=1);

namespace App\Feeds;

/** What can be subscribed to: calendars, and feeds of news. */
enum FeedKind: string
{
    case Project = 'project';
    case Person = 'person';
    case Entry = 'entry';
    case Handovers = 'handovers';
    case Changes = 'changes';
    case Risks = 'risks';
    case Baselines = 'baselines';

    public function isCalendar(): bool
    {
        return in_array($this, [self::Project, self::Person, self::Entry, self::Handovers], true);
    }

    /** Must it be said whose? The others are about one project, or about all within reach. */
    public function needsSubject(): bool
    {
        return in_array($this, [self::Project, self::Person, self::Entry], true);
    }

    public function ending(): string
    {
        return $this->isCalendar() ? 'ics' : 'atom';
    }
}

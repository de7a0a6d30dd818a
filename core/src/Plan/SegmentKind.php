<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a segment of a generated code or name is made of. */
enum SegmentKind: string
{
    case ProjectKey = 'project-key';

    /** the WBS code on one level */
    case Level = 'level';

    /** the name of the WBS element on one level */
    case LevelName = 'level-name';

    /** the codes of all levels that are there, joined by the separators of the levels */
    case Levels = 'levels';
    case Literal = 'literal';

    /** numbers from the step on, for the activities of one WBS element in their order */
    case Counter = 'counter';

    /** the short code of the entry that the activity is coded with */
    case Entry = 'entry';

    /** the name of the activity itself */
    case Name = 'name';
}

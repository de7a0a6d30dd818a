<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Dates imposed on an activity. A pin overrides logic. */
enum ConstraintKind: string
{
    case StartNoEarlier = 'start-no-earlier';
    case FinishNoEarlier = 'finish-no-earlier';
    case StartNoLater = 'start-no-later';
    case FinishNoLater = 'finish-no-later';
    case StartOn = 'start-on';
    case FinishOn = 'finish-on';
    case StartPin = 'start-pin';
    case FinishPin = 'finish-pin';
    case AsLateAsPossible = 'as-late-as-possible';

    public function needsDate(): bool
    {
        return $this !== self::AsLateAsPossible;
    }

    public function isPin(): bool
    {
        return $this === self::StartPin || $this === self::FinishPin;
    }

    /** Holds the early start or finish back. */
    public function raisesEarly(): bool
    {
        return in_array($this, [self::StartNoEarlier, self::FinishNoEarlier, self::StartOn, self::FinishOn], true);
    }

    /** Caps the late start or finish. */
    public function lowersLate(): bool
    {
        return in_array($this, [self::StartNoLater, self::FinishNoLater, self::StartOn, self::FinishOn], true);
    }

    public function isOnStart(): bool
    {
        return in_array($this, [self::StartNoEarlier, self::StartNoLater, self::StartOn, self::StartPin], true);
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What sentences call activities. */
interface Names
{
    /** `KEY/CODE` of an activity or stub. */
    public function label(string $activity): string;

    public function name(string $activity): string;

    /**
     * Says which activities will be asked for, so that they can be looked up together.
     *
     * @param  list<string>  $activities
     */
    public function expect(array $activities): void;
}

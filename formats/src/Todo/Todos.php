<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/** The to-do components of one calendar file and what was noticed while reading it. */
final class Todos
{
    /** @var list<Todo> */
    public array $items = [];

    /** @var array<string, list<string>> X-REIHE-… property of the calendar => values */
    public array $extras = [];

    /** @var list<string> */
    public array $notes = [];

    public int $withoutUid = 0;

    /** what was read, to name lines */
    public string $text = '';

    /** The line on which the component with this UID names it; null when it cannot be found. */
    public function lineOf(string $uid): ?int
    {
        $at = $uid === '' ? false : stripos($this->text, $uid);

        return $at === false ? null : substr_count($this->text, "\n", 0, $at) + 1;
    }

    /** Says how many of something were left out, when there were any. */
    public function leaveOut(string $what, int $count): void
    {
        if ($count > 0) {
            $this->notes[] = "Left out: {$count} {$what}.";
        }
    }
}

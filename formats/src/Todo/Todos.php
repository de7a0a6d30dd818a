<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Formats\Text;

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

    /** and other components inside to-dos */
    public int $alarms = 0;

    /** @var array{count: int, said: string, line: int|null} lines that cannot be read, and the first of them */
    public array $refused = ['count' => 0, 'said' => '', 'line' => null];

    /** @var (\Closure(string): (int|null))|null where a property of the component that is being read stands */
    public ?\Closure $place = null;

    /** what was read, to name lines */
    public string $text = '';

    /** The line on which the component with this UID names it; null when it cannot be found. */
    public function lineOf(string $uid): ?int
    {
        $quoted = preg_quote($uid, '/');
        $named = $uid !== '' && preg_match("/^UID[^\r\n]*:{$quoted}\\s*$|<uid[^<]*<text>\\s*{$quoted}/mi", $this->text, $m,
            PREG_OFFSET_CAPTURE) === 1;
        $at = $named && isset($m[0]) ? $m[0][1] : (strlen($uid) < 4 ? false : stripos($this->text, $uid));

        return $at === false ? null : substr_count($this->text, "\n", 0, $at) + 1;
    }

    /** A line that cannot be read is left out and said; the others count. */
    public function refuse(string $property, string $why, string $uid): void
    {
        if ($this->refused['count']++ === 0) {
            $this->refused = ['count' => 1, 'said' => "{$property}: {$why}", 'line' => $this->place === null ? $this->lineOf($uid)
                : ($this->place)($property)];
        }
    }

    /** Says how many of something were left out, when there were any. */
    public function leaveOut(string $one, string $many, int $count): void
    {
        $count === 0 ?: $this->notes[] = 'Left out: '.Text::counted($count, $one, $many).'.';
    }
}

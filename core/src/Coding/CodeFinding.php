<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/** Something about codes or names that does not follow the level scheme. */
final readonly class CodeFinding
{
    /**
     * @param  string  $what  not-in-list, wrong-length, level-skipped, duplicate, name-twice or says-nothing
     * @param  string  $uid  of the WBS element or activity
     * @param  string  $label  its code or path
     * @param  string  $detail  what would be right, or who has it too
     */
    public function __construct(public string $what, public bool $isActivity, public string $uid, public string $label,
        public string $detail)
    {
    }
}

<?php

declare(strict_types=1);

namespace Reihe\Formats;

/** Why a file cannot be read, with the line where that is known. */
final class FormatError extends \RuntimeException
{
    /**
     * @param  list<array{line: int, path: string, why: string}>  $all  everything that is wrong with it, where more than the first thing
     *     is known; the path leads to the element, like `plan/project TERN/activity A-010`
     */
    public function __construct(public readonly string $why, public readonly ?int $fileLine = null, public readonly array $all = [])
    {
        parent::__construct($fileLine === null ? $why : "line {$fileLine}: {$why}");
    }

    /**
     * The same with what else is wrong with the file. What the schema says of the line is said in its words, with the path; what only the
     * reader found stands first.
     *
     * @param  list<array{line: int, path: string, why: string}>  $all
     */
    public function with(array $all): self
    {
        foreach ($all as $complaint) {
            if ($complaint['line'] === $this->fileLine) {
                return new self("{$complaint['path']}: {$complaint['why']}", $this->fileLine, $all);
            }
        }

        return new self($this->why, $this->fileLine, $all === [] || $this->fileLine === null ? $all
            : [['line' => $this->fileLine, 'path' => '', 'why' => $this->why], ...$all]);
    }
}

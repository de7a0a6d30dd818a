<?php

declare(strict_types=1);

namespace Reihe\Formats;

/** A file that cannot be read; `line` counts from 1 and is null where the format has no lines or it is unknown. */
final class FormatError extends \RuntimeException
{
    public function __construct(public readonly string $why, public readonly ?int $fileLine = null)
    {
        parent::__construct($fileLine === null ? $why : "line {$fileLine}: {$why}");
    }
}

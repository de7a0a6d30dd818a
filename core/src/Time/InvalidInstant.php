<?php

declare(strict_types=1);

namespace Reihe\Core\Time;

use Reihe\Core\CoreException;

/** A text that is not a moment between 1990 and 2099. */
final class InvalidInstant extends CoreException
{
    public function __construct(public readonly string $text, string $why)
    {
        parent::__construct("“{$text}” {$why}");
    }
}

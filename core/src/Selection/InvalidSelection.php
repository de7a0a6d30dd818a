<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

use Reihe\Core\CoreException;

/** An expression, or what rows are arranged by, that cannot be understood. */
final class InvalidSelection extends CoreException
{
    /** @param  string  $pointer  place in the written form, as a JSON pointer (RFC 6901) */
    public function __construct(public readonly string $pointer, public readonly string $why)
    {
        parent::__construct(($pointer === '' ? 'the filter' : $pointer)." {$why}");
    }
}

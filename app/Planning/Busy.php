<?php

declare(strict_types=1);

namespace App\Planning;

/** Others kept changing the same things; nothing was changed and trying again is fine. */
final class Busy extends \RuntimeException
{
    public function __construct(?\Throwable $previous = null)
    {
        parent::__construct('Others are changing the same things at this moment; nothing was changed. Please try again.', 0, $previous);
    }
}

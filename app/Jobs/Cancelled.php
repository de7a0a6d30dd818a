<?php

declare(strict_types=1);

namespace App\Jobs;

/** Whoever asked for the work does not want it any more. */
final class Cancelled extends \RuntimeException
{
}

<?php

declare(strict_types=1);

namespace App\Levelling;

/** A way out of an overload leads nowhere; the message says why. */
final class NoWay extends \RuntimeException
{
}

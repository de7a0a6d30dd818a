<?php

declare(strict_types=1);

namespace Reihe\Core;

/** Root of everything the core can complain about; the facts are in the fields of the subclasses. */
abstract class CoreException extends \RuntimeException
{
}

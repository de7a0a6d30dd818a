<?php

declare(strict_types=1);

namespace Reihe\Core\Formula;

use Reihe\Core\CoreException;

/** A formula that is not one; the message says where. */
final class InvalidFormula extends CoreException
{
}

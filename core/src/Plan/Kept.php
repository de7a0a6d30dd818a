<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Where a project is kept: here, or elsewhere (another system, another company, or only known from a file). */
enum Kept: string
{
    case Here = 'here';
    case Outside = 'outside';
}

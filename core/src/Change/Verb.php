<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

/** What an operation does to its object. */
enum Verb: string
{
    case Create = 'create';
    case Update = 'update';
    case Delete = 'delete';
}

<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

/** How much a finding matters: dates cannot be trusted, dates may mislead, worth a look. */
enum Severity: string
{
    case Broken = 'broken';
    case Attention = 'attention';
    case Note = 'note';
}

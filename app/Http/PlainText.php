<?php

declare(strict_types=1);

namespace App\Http;

use Closure;
use Illuminate\Contracts\Validation\ValidationRule;
use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\InvalidField;

/** Text as the core takes it: UTF-8 without control characters. */
final class PlainText implements ValidationRule
{
    public function validate(string $attribute, mixed $value, Closure $fail): void
    {
        try {
            (new Fields([$attribute => $value]))->stringOrNull($attribute, PHP_INT_MAX);
        } catch (InvalidField $e) {
            $fail("The {$attribute} {$e->why}.");
        }
    }
}

<?php

declare(strict_types=1);

namespace App\Http;

use Closure;
use Illuminate\Contracts\Validation\ValidationRule;
use Illuminate\Http\Request;
use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\InvalidField;

/** Text as the core takes it: UTF-8 without control characters. */
final class PlainText implements ValidationRule
{
    /** A name from a request, without blanks around it. @throws \Illuminate\Validation\ValidationException */
    public static function title(Request $request, string $field, int $longest): string
    {
        $given = $request->input($field);
        $request->merge([$field => is_string($given) ? trim($given) : $given]);
        /** @var array<string, string> $input */
        $input = $request->validate([$field => ['required', 'string', "max:{$longest}", new self]]);

        return $input[$field];
    }

    public function validate(string $attribute, mixed $value, Closure $fail): void
    {
        try {
            (new Fields([$attribute => $value]))->stringOrNull($attribute, PHP_INT_MAX);
        } catch (InvalidField $e) {
            $fail("The {$attribute} {$e->why}.");
        }
    }
}

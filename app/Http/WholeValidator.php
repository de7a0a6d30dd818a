<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Validation\Validator;

/** An empty text is a value like any other: where a list, a number or a flag is expected it is none, and is refused by its name. */
final class WholeValidator extends Validator
{
    protected function presentOrRuleIsImplicit($rule, $attribute, $value): bool
    {
        return $this->validatePresent($attribute, $value) || $this->isImplicit($rule);
    }
}

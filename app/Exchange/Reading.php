<?php

declare(strict_types=1);

namespace App\Exchange;

/** How a calendar is to be read. */
final readonly class Reading
{
    /**
     * @param  bool  $successorCarries  links stand on the successor's component
     * @param  bool  $events  appointments are read too, as work whose dates are pinned
     */
    public function __construct(public bool $successorCarries = false, public bool $events = false)
    {
    }

    /** @param  array<string, mixed>  $input */
    public static function of(array $input): self
    {
        return new self(($input['successorCarries'] ?? false) === true, ($input['events'] ?? false) === true);
    }
}

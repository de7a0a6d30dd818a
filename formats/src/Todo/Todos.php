<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/** The to-do components of one calendar file and what was noticed while reading it. */
final class Todos
{
    /** @var list<Todo> */
    public array $items = [];

    /** @var array<string, list<string>> X-REIHE-… property of the calendar => values */
    public array $extras = [];

    /** @var list<string> */
    public array $notes = [];
}

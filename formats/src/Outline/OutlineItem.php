<?php

declare(strict_types=1);

namespace Reihe\Formats\Outline;

/** A heading of an outline with what lies below it. */
final class OutlineItem
{
    /** @param  list<self>  $children */
    public function __construct(public string $code, public string $name, public array $children = [])
    {
    }
}

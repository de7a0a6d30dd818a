<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/**
 * A pasted cell: what stands in it, what was understood, what is wrong with it, and what the object has
 * now where that is something else.
 */
final readonly class Cell implements \JsonSerializable
{
    public function __construct(public string $text, public ?string $understood = null, public ?string $wrong = null,
        public ?string $was = null)
    {
    }

    /** @return array{text: string, understood: string|null, wrong: string|null, was: string|null} */
    public function jsonSerialize(): array
    {
        return ['text' => $this->text, 'understood' => $this->understood, 'wrong' => $this->wrong, 'was' => $this->was];
    }
}

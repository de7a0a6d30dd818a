<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/** A pasted cell: what stands in it, what was understood, and what is wrong with it. */
final readonly class Cell implements \JsonSerializable
{
    public function __construct(public string $text, public ?string $understood = null, public ?string $wrong = null)
    {
    }

    /** @return array{text: string, understood: string|null, wrong: string|null} */
    public function jsonSerialize(): array
    {
        return ['text' => $this->text, 'understood' => $this->understood, 'wrong' => $this->wrong];
    }
}

<?php

declare(strict_types=1);

namespace App\OData;

/** Where the next page begins: behind which row, how many rows are left of those asked for, how many a page has. */
final readonly class SkipToken implements \Stringable
{
    /**
     * @param  list<string|int|float|null>|null  $after  what the last row had in the orders
     * @param  string|null  $tracked  token of the changes that are to be asked for later
     */
    public function __construct(public ?array $after, public ?int $left, public ?int $size, public ?string $tracked)
    {
    }

    /** @throws ODataError */
    public static function read(?string $text): self
    {
        if ($text === null) {
            return new self(null, null, null, null);
        }
        $data = json_decode((string) base64_decode(strtr($text, '-_', '+/'), true), true, 3);
        $after = is_array($data) && is_array($data[0] ?? null) ? array_values($data[0]) : null;
        $values = [];
        foreach ($after ?? [] as $value) {
            $value === null || is_string($value) || is_int($value) || is_float($value) ? $values[] = $value : $after = null;
        }
        [, $left, $size, $tracked] = (is_array($data) ? array_values($data) : []) + [null, null, null, null];
        if ($after === null || ! ($left === null || (is_int($left) && $left > 0)) || ! ($size === null || (is_int($size) && $size > 0
            && $size <= Query::LARGEST)) || ! ($tracked === null || is_string($tracked))) {
            throw new ODataError(400, 'This is no $skiptoken from here; follow links as they are.', '$skiptoken');
        }

        return new self($values, $left, $size, $tracked);
    }

    public function __toString(): string
    {
        return rtrim(strtr(base64_encode(json_encode([$this->after, $this->left, $this->size, $this->tracked], JSON_THROW_ON_ERROR)),
            '+/', '-_'), '=');
    }
}

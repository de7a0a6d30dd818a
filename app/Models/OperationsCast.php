<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Contracts\Database\Eloquent\CastsAttributes;
use Illuminate\Database\Eloquent\Model;
use Reihe\Core\Change\Operation;

/**
 * Operations as JSON, written one by one: the list may have hundreds of thousands.
 *
 * @implements CastsAttributes<list<array<string, mixed>>, list<Operation|array<string, mixed>>>
 */
final class OperationsCast implements CastsAttributes
{
    /** @return list<array<string, mixed>> */
    public function get(Model $model, string $key, mixed $value, array $attributes): array
    {
        /** @var list<array<string, mixed>> */
        return is_string($value) ? json_decode($value, true, 512, JSON_THROW_ON_ERROR) : [];
    }

    public function set(Model $model, string $key, mixed $value, array $attributes): string
    {
        $json = '[';
        foreach (is_array($value) ? $value : [] as $i => $operation) {
            $json .= ($i === 0 ? '' : ',').json_encode($operation instanceof Operation ? $operation->toArray() : $operation,
                JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION);
        }

        return $json.']';
    }
}

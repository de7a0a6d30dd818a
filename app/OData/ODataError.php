<?php

declare(strict_types=1);

namespace App\OData;

use Illuminate\Http\JsonResponse;

/** An answer in the protocol's error form (OData JSON Format 4.01, section 21.1). */
final class ODataError extends \RuntimeException
{
    public function __construct(public readonly int $status, string $message, public readonly ?string $target = null)
    {
        parent::__construct($message);
    }

    public function render(): JsonResponse
    {
        return new JsonResponse(['error' => array_filter(['code' => (string) $this->status, 'message' => $this->getMessage(),
            'target' => $this->target])], $this->status, ['OData-Version' => '4.01'], JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }
}

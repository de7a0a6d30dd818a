<?php

declare(strict_types=1);

namespace App\OData;

use App\Database\DatabaseState;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use PDOException;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Throwable;

/** An answer in the protocol's error form (OData JSON Format 4.01, section 21.1). */
final class ODataError extends \RuntimeException
{
    /** @param  array<array-key, mixed>  $headers */
    public function __construct(public readonly int $status, string $message, public readonly ?string $target = null,
        private readonly array $headers = [])
    {
        parent::__construct($message);
    }

    /** Whatever went wrong while a feed was read. */
    public static function answer(Throwable $e, Request $request): ?JsonResponse
    {
        if (! $request->is('odata/*')) {
            return null;
        }
        $database = $e instanceof PDOException ? DatabaseState::of($e) : null;

        $error = match (true) {
            $e instanceof self => $e,
            $database !== null => new self($database->status(), $database->message(), null, ['Retry-After' => '5']),
            $e instanceof HttpExceptionInterface => new self($e->getStatusCode(), match ($e->getStatusCode()) {
                404 => 'There is nothing at this address.',
                405 => 'The feed is read only.',
                429 => 'Too many requests; go on after the time that Retry-After says.',
                default => $e->getMessage() !== '' ? $e->getMessage() : 'The request could not be answered.',
            }, null, $e->getHeaders()),
            default => new self(500, 'Something went wrong on the server.'),
        };

        return $error->response();
    }

    public function response(): JsonResponse
    {
        return new JsonResponse(['error' => array_filter(['code' => (string) $this->status, 'message' => $this->getMessage(),
            'target' => $this->target])], $this->status, ['OData-Version' => '4.01'] + array_filter($this->headers, is_scalar(...)),
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE);
    }
}

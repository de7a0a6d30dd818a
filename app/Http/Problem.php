<?php

declare(strict_types=1);

namespace App\Http;

use App\Access\Reach;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Calendar\InvalidCalendar;
use Reihe\Core\Change\Clash;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Formats\FormatError;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Throwable;

/** Errors as problem documents (RFC 9457), with a JSON pointer to the field where there is one. */
final class Problem
{
    public static function render(Throwable $e, Request $request): ?JsonResponse
    {
        if (! $request->is('api/*')) {
            return null;
        }

        return match (true) {
            $e instanceof ValidationException => self::make(422, 'invalid', collect($e->errors())->flatten()->first() ?? 'invalid', [
                'errors' => collect($e->errors())->map(static fn (mixed $messages, int|string $field): array => ['pointer' => '/'.str_replace('.', '/', (string) $field), 'detail' => is_array($messages) ? $messages[0] : $messages])->values()->all(),
            ]),
            $e instanceof AuthenticationException => self::make(401, 'signed-out', 'Please sign in.'),
            $e instanceof AuthorizationException => self::make(403, 'forbidden', $e->getMessage()),
            $e instanceof Clash => self::make(409, 'clash', $e->getMessage(), ['kind' => $e->kind->value, 'uid' => $e->uid, 'field' => $e->field,
                'yours' => $e->yours, 'theirs' => $e->theirs, 'errors' => [['pointer' => "/operations/{$e->position}/after/{$e->field}", 'detail' => $e->getMessage()]]]),
            $e instanceof InvalidOperation => self::make(422, 'invalid', ucfirst($e->field === null ? $e->why : "{$e->field}: {$e->why}"), ['errors' => [[
                'pointer' => "/operations/{$e->position}".($e->field === null ? '' : "/after/{$e->field}"), 'detail' => $e->why]]]),
            $e instanceof LoopFound => self::loop($e),
            $e instanceof InvalidPlan => self::make(422, 'invalid', $e->getMessage(), ['kind' => $e->kind->value, 'uid' => $e->uid, 'field' => $e->field]),
            $e instanceof InvalidCalendar, $e instanceof InvalidField => self::make(422, 'invalid', $e->getMessage()),
            $e instanceof FormatError => self::make(422, 'file', $e->getMessage(), ['line' => $e->fileLine]),
            $e instanceof HttpExceptionInterface => self::make($e->getStatusCode(), 'http', $e->getStatusCode() === 404 ? 'Not found.' : ($e->getMessage() ?: 'The request could not be answered.'), headers: $e->getHeaders()),
            default => config('app.debug') === true ? null : self::make(500, 'server', 'Something went wrong on the server; nothing was changed.'),
        };
    }

    /** Activities of projects that the user may not see stay unnamed. */
    private static function loop(LoopFound $e): JsonResponse
    {
        $reach = app(Reach::class);
        $chain = array_map(static fn (string $label): string => $reach->sees($label) ? $label : '(another project)', $e->chain);

        return self::make(422, 'loop', 'These links close a loop: '.implode(' → ', [...$chain, $chain[0]]), ['chain' => $chain]);
    }

    /**
     * @param  array<string, mixed>  $more
     * @param  array<array-key, mixed>  $headers
     */
    private static function make(int $status, string $type, mixed $detail, array $more = [], array $headers = []): JsonResponse
    {
        return new JsonResponse(['type' => "urn:reihe:problem:{$type}", 'title' => ucfirst($type), 'status' => $status, 'detail' => $detail] + $more,
            $status, ['Content-Type' => 'application/problem+json'] + array_filter($headers, is_scalar(...)), JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }
}

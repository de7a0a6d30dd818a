<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Http\Request;
use Laravel\Sanctum\PersonalAccessToken;
use Symfony\Component\HttpFoundation\Response;

/**
 * What a personal token may be used for: `feed` reads /odata, `read` reads the API, `write` also changes plan data.
 * A session is not limited.
 */
final class TokenScope
{
    /** @throws AuthorizationException */
    public function handle(Request $request, Closure $next, string $scope): Response
    {
        $token = $request->user()?->currentAccessToken();
        if ($token instanceof PersonalAccessToken) {
            $needed = match (true) {
                $scope === 'look' => 'read', // a question too long for an address
                $scope === 'read' && ! $request->isMethodSafe() => 'write',
                default => $scope,
            };
            if (! $token->can($needed) && ! ($needed === 'read' && $token->can('write'))) {
                throw new AuthorizationException("This token is not made for “{$needed}”.");
            }
            if ($needed === 'session') {
                throw new AuthorizationException('This needs a session, not a token.');
            }
        }

        /** @var Response */
        return $next($request);
    }
}

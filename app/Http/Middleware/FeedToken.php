<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\User;
use App\OData\ODataError;
use Carbon\CarbonInterface;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Laravel\Sanctum\PersonalAccessToken;
use Symfony\Component\HttpFoundation\Response;

/** Feeds take a personal token made for them, as Bearer or as the password of Basic, which reporting tools know. */
final class FeedToken
{
    public function handle(Request $request, Closure $next): Response
    {
        $plain = $request->bearerToken() ?? $request->getPassword();
        $token = is_string($plain) ? PersonalAccessToken::findToken($plain) : null;
        $user = $token?->tokenable;
        $ends = $token?->getAttribute('expires_at');
        if ($token === null || ! $user instanceof User || ! $user->active || ($ends instanceof CarbonInterface && $ends->isPast())) {
            return (new ODataError(401, $token !== null && $ends instanceof CarbonInterface && $ends->isPast() ? 'This token has expired.'
                : 'A feed token is needed, as Bearer token or as password of Basic.'))->response()
                ->withHeaders(['WWW-Authenticate' => 'Basic realm="Reihe feeds"']);
        }
        if (! $token->can('feed')) {
            return (new ODataError(403, 'This token is not made for feeds.'))->response();
        }
        $token->forceFill(['last_used_at' => now(), 'last_used_from' => $request->ip()])->save();
        Auth::setUser($user->withAccessToken($token));

        /** @var Response */
        return $next($request);
    }
}

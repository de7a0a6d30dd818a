<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\User;
use Closure;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Who signed in with a password that somebody else knows chooses one of their own before anything else. */
final class FirstPassword
{
    /** @throws AuthorizationException */
    public function handle(Request $request, Closure $next): Response
    {
        $user = $request->user();
        if ($user instanceof User && $user->must_change && ! $request->is('api/v1/session', 'api/v1/session/password')) {
            throw new AuthorizationException('Please choose a password of your own first.');
        }

        /** @var Response */
        return $next($request);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Laravel\Sanctum\Http\Middleware\EnsureFrontendRequestsAreStateful;

/**
 * Requests of our own pages have a session. Some browsers say nowhere where a request comes from (no Referer, and no Origin when
 * reading): then the session's own cookie is enough, since writing needs the token against forged requests all the same, and no
 * other site can read an answer.
 */
final class OwnPages extends EnsureFrontendRequestsAreStateful
{
    /** @param  \Illuminate\Http\Request  $request */
    public static function fromFrontend($request): bool
    {
        $isSilent = ! $request->headers->has('referer') && ! $request->headers->has('origin');

        return $isSilent ? ! $request->headers->has('Authorization') && $request->cookies->has(config()->string('session.cookie'))
            : parent::fromFrontend($request);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Request;

/** The token against forged requests comes in a header only, so that no body is read before it is known whose it is. */
final class CsrfHeader extends ValidateCsrfToken
{
    /** @param  Request  $request */
    protected function getTokenFromRequest($request): ?string
    {
        $bare = $request->duplicate(request: []);
        $bare->headers->remove('Content-Type');
        /** @var string|null */
        $token = parent::getTokenFromRequest($bare);

        return $token;
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Headers that keep the browser from loading or leaking anything. Inline styles are needed by the component library. */
final class SecurityHeaders
{
    /** bin/start gives them to what the web server answers by itself, too */
    public const HEADERS = [
        'Content-Security-Policy' => "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self'; "
            ."object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
        'X-Content-Type-Options' => 'nosniff',
        'X-Frame-Options' => 'DENY',
        'Referrer-Policy' => 'same-origin',
        'Permissions-Policy' => 'camera=(), microphone=(), geolocation=()',
        'Cross-Origin-Opener-Policy' => 'same-origin',
    ];

    public function handle(Request $request, Closure $next): Response
    {
        /** @var Response $response */
        $response = $next($request);
        foreach (self::HEADERS as $name => $value) {
            $response->headers->set($name, $value);
        }

        // what is private stays in no cache; who asks again with what we called it (ETag) is still answered with “as it was”
        if ($request->is('api/*', 'odata/*', 'feeds/*')) {
            $response->headers->set('Cache-Control', 'no-store, private');
        }

        return $response;
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\HttpException;

/** Refuses large bodies before anything reads them; files come in as multipart and have a limit of their own. */
final class BodyLimit
{
    public function handle(Request $request, Closure $next): Response
    {
        $limit = config('reihe.body_limit');
        $isFile = str_starts_with((string) $request->header('Content-Type'), 'multipart/form-data');
        if (! $isFile && is_int($limit) && (int) $request->header('Content-Length') > $limit * 1024 * 1024) {
            throw new HttpException(413, "The request is larger than {$limit} MB.");
        }

        /** @var Response */
        return $next($request);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\BadRequestHttpException;

/** Parameters of an address are texts, given once; a JSON body is JSON. Said here, so that nothing behind has to ask. */
final class PlainInput
{
    public function handle(Request $request, Closure $next): Response
    {
        foreach ($request->query() as $name => $value) {
            if ($value !== null && (! is_string($value) || ! mb_check_encoding($value, 'UTF-8'))) {
                throw ValidationException::withMessages([(string) $name => 'Must be given once, as UTF-8 text.']);
            }
        }
        if ($request->isJson() && $request->getContent() !== '') {
            $body = json_decode($request->getContent(), true);
            if (! is_array($body)) {
                throw new BadRequestHttpException('The body of the request is not a JSON object: '.(json_last_error() === JSON_ERROR_NONE
                    ? 'it is a plain value' : json_last_error_msg()).'.');
            }
        }

        /** @var Response */
        return $next($request);
    }
}

<?php

declare(strict_types=1);

use Laravel\Sanctum\Http\Middleware\AuthenticateSession;

return [
    'stateful' => array_filter(explode(',', (string) env('SANCTUM_STATEFUL_DOMAINS', '127.0.0.1,localhost,127.0.0.1:8800,localhost:8800'))),
    'guard' => ['web'],
    'expiration' => null,
    'token_prefix' => 'reihe_',
    'middleware' => [
        'authenticate_session' => AuthenticateSession::class,
        'encrypt_cookies' => Illuminate\Cookie\Middleware\EncryptCookies::class,
        'validate_csrf_token' => App\Http\Middleware\CsrfHeader::class,
    ],
];

<?php

declare(strict_types=1);

use App\Database\DatabaseGone;
use App\Http\Controllers\SubscriptionController;
use App\Http\Middleware\BodyLimit;
use App\Http\Middleware\FirstPassword;
use App\Http\Middleware\PlainInput;
use App\Http\Middleware\SecurityHeaders;
use App\Http\Middleware\TokenScope;
use App\OData\ODataError;
use App\Planning\Busy;
use App\Planning\Decided;
use App\Problems\Problem;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Foundation\Http\Middleware\ConvertEmptyStringsToNull;
use Illuminate\Foundation\Http\Middleware\TrimStrings;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Route;

// a number is written with as many digits as it takes to read the same one again, in the database, in files and in texts
ini_set('precision', '-1');

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/web.php',
        api: __DIR__.'/../routes/api.php',
        apiPrefix: 'api/v1',
        commands: __DIR__.'/../routes/console.php',
        health: '/up',
        then: static function (): void {
            Route::prefix('odata/v4')->middleware(['throttle:600,1'])->group(base_path('routes/odata.php'));
            Route::get('feeds/{secret}.{ending}', [SubscriptionController::class, 'fetch'])->middleware('throttle:120,1')
                ->where(['secret' => '[A-Za-z0-9]{40}', 'ending' => 'ics|atom']);
        },
    )
    ->withMiddleware(function (Middleware $middleware): void {
        // texts are taken as they are; whoever wants them trimmed says so
        $middleware->remove([TrimStrings::class, ConvertEmptyStringsToNull::class]);
        $middleware->prepend(BodyLimit::class);
        $middleware->statefulApi();
        $middleware->append(SecurityHeaders::class);
        $middleware->alias(['scope' => TokenScope::class, 'plain' => PlainInput::class, 'first' => FirstPassword::class]);
        $middleware->redirectGuestsTo(static fn (Request $request): ?string => $request->is('api/*', 'odata/*') ? null : '/');
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        $exceptions->shouldRenderJsonWhen(static fn (Request $request): bool => $request->is('api/*', 'odata/*'));
        $exceptions->dontReport([Reihe\Formats\FormatError::class, ODataError::class, Busy::class, Decided::class]);
        // what is answered in words is no fault; what nobody foresaw is, and stands in the log
        $exceptions->dontReportWhen(Problem::isAnswered(...));
        $exceptions->dontReportWhen(DatabaseGone::isKnown(...));
        $exceptions->render(Problem::render(...));
        $exceptions->render(ODataError::answer(...));
    })->create();

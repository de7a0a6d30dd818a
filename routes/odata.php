<?php

declare(strict_types=1);

use App\Http\Middleware\FeedToken;
use App\OData\ODataController;
use Illuminate\Support\Facades\Route;

Route::middleware(FeedToken::class)->group(static function (): void {
    Route::get('/', [ODataController::class, 'service']);
    Route::get('$metadata', [ODataController::class, 'metadata']);
    Route::any('{path}', [ODataController::class, 'read'])->where('path', '.+');
});

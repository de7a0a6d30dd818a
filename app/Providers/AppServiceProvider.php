<?php

declare(strict_types=1);

namespace App\Providers;

use App\Access\Reach;
use App\Models\User;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\ServiceProvider;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind(Reach::class, static function (): Reach {
            $user = request()->user();

            return Reach::of($user instanceof User ? $user : new User);
        });
    }

    public function boot(): void
    {
        RateLimiter::for('sign-in', static fn (Request $request): Limit => Limit::perMinute(120)->by('sign-in:'.$request->ip()));
    }
}

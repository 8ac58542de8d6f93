<?php

declare(strict_types=1);

namespace App\Providers;

use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\ServiceProvider;

final class AppServiceProvider extends ServiceProvider
{
    public function boot(): void
    {
        JsonResource::withoutWrapping();
        // Ten tries a minute for one name from one address, and fifty for an address.
        RateLimiter::for('sign-in', static fn (Request $request): array => [
            Limit::perMinute(10)->by(mb_strtolower((string) $request->input('email')).'|'.$request->ip().'|'.$request->route('token')),
            Limit::perMinute(50)->by((string) $request->ip()),
        ]);
    }
}

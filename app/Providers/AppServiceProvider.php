<?php

declare(strict_types=1);

namespace App\Providers;

use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\ServiceProvider;
use Symfony\Component\HttpFoundation\Response;

final class AppServiceProvider extends ServiceProvider
{
    public function boot(): void
    {
        JsonResource::withoutWrapping();
        // Ten wrong tries a minute for one name from one address, and fifty for an address; a whole crew may sign in at once.
        $failed = static fn (Response $response): bool => $response->getStatusCode() >= 400;
        RateLimiter::for('sign-in', static fn (Request $request): array => [
            Limit::perMinute(10)->by(mb_strtolower((string) $request->input('email')).'|'.$request->ip().'|'.$request->route('token'))->after($failed),
            Limit::perMinute(50)->by((string) $request->ip())->after($failed),
        ]);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Answers of the API are data, never a page: nothing in them may run, be framed or be guessed at. */
final class SecurityHeaders
{
    public function handle(Request $request, Closure $next): Response
    {
        $response = $next($request);
        $response->headers->add(self::of($request->isSecure()));

        return $response;
    }

    /**
     * @param  bool  $isSecure  whether it was asked over TLS
     * @return array<string, string>
     */
    public static function of(bool $isSecure): array
    {
        return [
            'X-Content-Type-Options' => 'nosniff',
            'Content-Security-Policy' => "default-src 'none'; frame-ancestors 'none'",
            'Referrer-Policy' => 'same-origin',
        ] + ($isSecure ? ['Strict-Transport-Security' => 'max-age=31536000'] : []);
    }
}

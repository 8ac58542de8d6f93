<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\Problems;
use App\Models\User;
use App\People\SecondFactor;
use Closure;
use Illuminate\Http\Request;
use PinYard\Problem;
use Symfony\Component\HttpFoundation\Response;

/**
 * Whoever coordinates a programme that demands a second factor, and has none yet, gets no further than to where it is
 * set up. What a phone of theirs has collected still lands: work is not held back for it.
 */
final class SecondDemanded
{
    private const OPEN = [
        'api/v1/me', 'api/v1/me/*', 'api/v1/session', 'api/v1/signed-in', 'api/v1/mail-box', 'api/v1/sync',
        'api/v1/attachments', 'api/v1/uploads', 'api/v1/uploads/*',
    ];

    public function handle(Request $request, Closure $next): Response
    {
        $user = $request->user();
        if ($user instanceof User && $user->second_demanded && ! SecondFactor::isAskedOf($user)
            && ! $request->is(...self::OPEN)) {
            return Problems::stop(403, new Problem('second_demanded'));
        }

        return $next($request);
    }
}

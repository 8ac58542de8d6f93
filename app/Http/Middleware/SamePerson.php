<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\Problems;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * A phone says whose it is with every request. Where somebody else is signed in in its browser meanwhile, nothing is
 * taken in or given out under that name; what waits on the phone goes on waiting for its own person.
 */
final class SamePerson
{
    public const HEADER = 'Pin-Yard-Person';

    /** @param  \Closure(Request): Response  $next */
    public function handle(Request $request, \Closure $next): Response
    {
        $named = $request->header(self::HEADER);
        $free = $request->is('api/v1/me', 'api/v1/session', 'api/v1/signed-in');

        return $named !== null && ! $free && $named !== (string) $request->user()?->id
            ? Problems::otherPerson()
            : $next($request);
    }
}

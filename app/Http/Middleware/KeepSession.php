<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\People\SessionsOfPeople;
use Illuminate\Contracts\Session\Session;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\Session\Store;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/**
 * The cookie of a session is given when there is something new in it to keep. Screens ask all the time, and an answer
 * that was on its way while somebody signed in would put its own cookie in place of theirs: they would be signed out
 * before they saw the desk.
 */
final class KeepSession extends StartSession
{
    protected function addCookieToResponse(Response $response, Session $session): void
    {
        if (! self::isKept($session)) {
            parent::addCookieToResponse($response, $session);
        }
    }

    /** Whether its browser has just this session, or nothing to have: of nobody none is stored. */
    public static function isKept(Session $session): bool
    {
        $sessions = $session instanceof Store ? $session->getHandler() : null;

        return $sessions instanceof SessionsOfPeople && $sessions->keeps($session->getId(), Auth::hasUser());
    }
}

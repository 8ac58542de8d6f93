<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Support\Facades\Auth;

/**
 * A forged request borrows somebody's session; where nobody is signed in there is none to borrow, and none is stored.
 * What a stranger may send (signing in, joining, a new password) must be JSON, which no page of another origin can send
 * without asking.
 */
final class CsrfOfSignedIn extends ValidateCsrfToken
{
    /** @param  \Illuminate\Http\Request  $request */
    protected function inExceptArray($request): bool
    {
        return ($request->user() === null &&
            str_starts_with((string) $request->header('Content-Type'), 'application/json')) ||
            parent::inExceptArray($request);
    }

    /**
     * @param  \Illuminate\Http\Request  $request
     * @param  \Symfony\Component\HttpFoundation\Response  $response
     */
    protected function addCookieToResponse($request, $response)
    {
        $session = $request->session();
        $has = Auth::hasUser() === false || $request->cookie('XSRF-TOKEN') === $session->token();

        return $has && KeepSession::isKept($session) ? $response : parent::addCookieToResponse($request, $response);
    }
}

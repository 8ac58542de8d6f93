<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\Request;

/**
 * Whoever asks, on routes that are for people who have signed in. Were such a route ever left open by mistake, it
 * would answer 401 and not work for nobody.
 */
final class SignedIn
{
    /** @throws AuthenticationException if nobody has */
    public static function of(Request $request): User
    {
        $person = $request->user();

        return $person instanceof User ? $person : throw new AuthenticationException;
    }
}

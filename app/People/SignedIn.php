<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use App\OneTrip;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

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

    /**
     * Every screen asks for these: no models, in whose making most of the answer's time went.
     *
     * @return list<\stdClass> number of each programme that somebody is in, as `programme`, and their `role` in it
     */
    public static function roles(User $person): array
    {
        return array_values(OneTrip::of(
            static fn (): array => DB::table('members')->where('user_id', $person->id)->orderBy('id')
                ->get(['programme_id as programme', 'role'])->all(),
        ));
    }
}

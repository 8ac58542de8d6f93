<?php

declare(strict_types=1);

namespace App\Http\Polls;

use App\Boards\BoardPicks;
use App\Boards\BoardState;
use App\Maps\SharedMapState;
use App\Models\User;

/**
 * What screens ask again and again, each with the name under which whoever has the answer is told so
 * ({@see \App\Answers\KeptAnswer::unlessKnown}): the same by the long way and by the short one. It names all that could
 * change the answer for this one viewer; null where there is nothing that they may have.
 */
final class Asked
{
    /**
     * @param  string  $on  past day
     * @param  string  $by  what is beside it
     */
    public static function board(
        User $person,
        int $board,
        BoardPicks $picks,
        string $on = '',
        string $by = '',
    ): ?string {
        $state = BoardState::forPerson($board, $person);

        return $state === null ? null : implode('|', ['board', $state, $picks->key(), $on, $by]);
    }

    /** @param  list<\stdClass>  $roles  as {@see \App\People\SignedIn::roles} tells them */
    public static function me(User $person, array $roles): string
    {
        $told = array_map(
            static fn (string $name): string => (string) $person->getRawOriginal($name),
            ['id', 'name', 'email', 'totp_since', 'second_demanded', 'unwanted_mails', 'language'],
        );

        return 'me|'.hash('sha256', serialize([$told, $roles]));
    }

    public static function sharedBoard(string $token, BoardPicks $picks): ?string
    {
        $state = BoardState::forLink($token);

        return $state === null ? null : "board|$state|".$picks->key();
    }

    /** @param  string|null  $search  id of the search that is asked */
    public static function sharedMap(string $token, ?string $search): ?string
    {
        $state = SharedMapState::of($token, $search);

        return $state === null ? null : "map|$state";
    }
}

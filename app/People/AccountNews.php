<?php

declare(strict_types=1);

namespace App\People;

use App\Mailing\Letter;
use App\Models\User;

/** Writes to a person that something of their account is another now, so that they hear of it if it was not them. */
final class AccountNews
{
    public const PASSWORD = 'mail.account.password';

    public const SECOND_ON = 'mail.account.second_on';

    public const SECOND_OFF = 'mail.account.second_off';

    public const ADDRESS = 'mail.account.address';

    /**
     * Behind the answer, so that a slow mail server holds up nobody.
     *
     * @param  string  $email  theirs, or the one that was
     * @param  self::*  $what
     */
    public static function tell(string $email, User $person, string $what): void
    {
        $language = $person->language;
        $words = ['name' => $person->name, 'address' => config('app.url').'/forgot'];
        dispatch(static fn () => Letter::send($email, $language, $what, $words))->afterCommit();
    }
}

<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Auth\EloquentUserProvider;
use Illuminate\Session\Store;

/** Finds whoever is signed in; mostly they were read with their session. */
final class PeopleOfSessions extends EloquentUserProvider
{
    /** @param  mixed  $identifier */
    public function retrieveById($identifier): ?User
    {
        $session = app()->resolved('session.store') ? app('session.store') : null;
        $sessions = $session instanceof Store ? $session->getHandler() : null;
        $known =
            is_int($identifier) && $sessions instanceof SessionsOfPeople ? $sessions->person($identifier) : null;
        $found = $known ?? parent::retrieveById($identifier);

        return $found instanceof User ? $found : null;
    }
}

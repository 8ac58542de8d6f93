<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Outing;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Outings are planned by whoever manages their programme. */
final class OutingPolicy
{
    public function manage(User $user, Outing $outing): Response
    {
        return (new ProgrammePolicy)->manage($user, $outing->programme);
    }
}

<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Alert;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Alerts are made by whoever manages their programme. */
final class AlertPolicy
{
    public function manage(User $user, Alert $alert): Response
    {
        return (new ProgrammePolicy)->manage($user, $alert->programme);
    }
}

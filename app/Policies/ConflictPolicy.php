<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Conflict;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** What is in dispute is decided by whoever manages the programme. */
final class ConflictPolicy
{
    public function manage(User $user, Conflict $dispute): Response
    {
        return (new ProgrammePolicy)->manage($user, $dispute->layer->programme);
    }
}

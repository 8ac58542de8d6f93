<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Dispute;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** What is in dispute is decided by whoever manages the programme. */
final class DisputePolicy
{
    public function manage(User $user, Dispute $dispute): Response
    {
        return (new ProgrammePolicy)->manage($user, $dispute->layer->programme);
    }
}

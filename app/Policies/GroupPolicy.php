<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Group;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Groups are made and changed by whoever manages the programme. */
final class GroupPolicy
{
    public function manage(User $user, Group $group): Response
    {
        return (new ProgrammePolicy)->manage($user, $group->programme);
    }
}

<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\AskedBack;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** A question is closed by whoever manages the programme. */
final class AskedBackPolicy
{
    public function manage(User $user, AskedBack $asked): Response
    {
        return (new ProgrammePolicy)->manage($user, $asked->layer->programme);
    }
}

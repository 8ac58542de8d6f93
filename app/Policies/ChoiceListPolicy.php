<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\ChoiceList;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Lists are seen and changed by whoever may see and manage their programme. */
final class ChoiceListPolicy
{
    public function view(User $user, ChoiceList $list): Response
    {
        return (new ProgrammePolicy)->view($user, $list->programme);
    }

    public function manage(User $user, ChoiceList $list): Response
    {
        return (new ProgrammePolicy)->manage($user, $list->programme);
    }
}

<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\RecordQuestion;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** A question is closed by whoever manages the programme. */
final class RecordQuestionPolicy
{
    public function manage(User $user, RecordQuestion $asked): Response
    {
        return (new ProgrammePolicy)->manage($user, $asked->layer->programme);
    }
}

<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Board;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** A board is seen by whoever sees its programme, and changed by who makes them; its open link is another way. */
final class BoardPolicy
{
    public function __construct(private readonly ProgrammePolicy $programmes)
    {
    }

    public function view(User $user, Board $board): Response
    {
        return $this->programmes->view($user, $board->programme);
    }

    public function manage(User $user, Board $board): Response
    {
        return $this->programmes->make($user, $board->programme);
    }
}

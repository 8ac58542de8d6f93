<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Board;
use App\Models\User;
use App\Rights\ShownTo;
use Illuminate\Auth\Access\Response;

/** A board is seen by whom it is shown to, and changed by those of them who make such; its open link is another way. */
final class BoardPolicy
{
    public function __construct(private readonly ProgrammePolicy $programmes)
    {
    }

    public function view(User $user, Board $board): Response
    {
        return self::ifShown($this->programmes->view($user, $board->programme), $user, $board);
    }

    public function manage(User $user, Board $board): Response
    {
        return self::ifShown($this->programmes->make($user, $board->programme), $user, $board);
    }

    /** Of one that is not shown to somebody not even that it is there is told. */
    private static function ifShown(Response $may, User $user, Board $board): Response
    {
        return $may->denied() && $may->status() === 404 || ShownTo::admits($board, $user)
            ? $may
            : Response::denyAsNotFound();
    }
}

<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Map;
use App\Models\User;
use App\Rights\ShownTo;
use Illuminate\Auth\Access\Response;

/** A map is seen by whom it is shown to, and changed by those of them who make such; its open link is another way. */
final class MapPolicy
{
    public function __construct(private readonly ProgrammePolicy $programmes)
    {
    }

    public function view(User $user, Map $map): Response
    {
        return self::ifShown($this->programmes->view($user, $map->programme), $user, $map);
    }

    public function manage(User $user, Map $map): Response
    {
        return self::ifShown($this->programmes->make($user, $map->programme), $user, $map);
    }

    /** Of one that is not shown to somebody not even that it is there is told. */
    private static function ifShown(Response $may, User $user, Map $map): Response
    {
        return $may->denied() && $may->status() === 404 || ShownTo::admits($map, $user)
            ? $may
            : Response::denyAsNotFound();
    }
}

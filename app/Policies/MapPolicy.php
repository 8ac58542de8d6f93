<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Map;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** A map is seen and managed as its programme is; the open link is a way of its own (OpenController). */
final class MapPolicy
{
    public function __construct(private readonly ProgrammePolicy $programmes)
    {
    }

    public function view(User $user, Map $map): Response
    {
        return $this->programmes->view($user, $map->programme);
    }

    public function manage(User $user, Map $map): Response
    {
        return $this->programmes->manage($user, $map->programme);
    }
}

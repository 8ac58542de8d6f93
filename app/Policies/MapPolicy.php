<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Map;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** A map is seen by whoever sees its programme, and changed by who makes them; its open link is another way. */
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
        return $this->programmes->make($user, $map->programme);
    }
}

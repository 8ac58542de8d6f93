<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Layer;
use App\Models\User;
use App\Rights\LayerRights;
use Illuminate\Auth\Access\Response;

final class LayerPolicy
{
    public function view(User $user, Layer $layer): Response
    {
        return LayerRights::of($user, $layer)->maySee() ? Response::allow() : Response::denyAsNotFound();
    }

    public function design(User $user, Layer $layer): Response
    {
        $rights = LayerRights::of($user, $layer);

        return match (true) {
            $rights->mayDesign() => Response::allow(),
            $rights->maySee() => Response::deny(),
            default => Response::denyAsNotFound(),
        };
    }
}

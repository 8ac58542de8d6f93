<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Export;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** A file that goes out holds what its maker may see, so it is for its maker alone, and as long as the layer is. */
final class ExportPolicy
{
    public function view(User $user, Export $export): Response
    {
        return $export->user_id === $user->id && $export->layer->programme->memberFor($user) !== null ? Response::allow() : Response::denyAsNotFound();
    }
}

<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Export;
use App\Models\Layer;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** A file that goes out holds what its maker may see, so it is for its maker alone, and as long as the layer is. */
final class ExportPolicy
{
    public function view(User $user, Export $export): Response
    {
        // A layer in the bin gives nothing out.
        $layer = Layer::query()->with('programme')->find($export->layer_id);

        return $export->user_id === $user->id &&
            $layer !== null &&
            ! $layer->programme->trashed() &&
            $layer->programme->memberFor($user) !== null
            ? Response::allow()
            : Response::denyAsNotFound();
    }
}

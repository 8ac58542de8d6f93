<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Attachment;
use App\Models\User;
use App\Rights\LayerRights;
use Illuminate\Auth\Access\Response;

/** A photo is seen by whoever may see its record. */
final class AttachmentPolicy
{
    public function view(User $user, Attachment $attachment): Response
    {
        $rights = LayerRights::of($user, $attachment->layer);
        $sees = $rights->maySee() && ($rights->seesAll() || $attachment->created_by === $user->id);

        return $sees ? Response::allow() : Response::denyAsNotFound();
    }
}

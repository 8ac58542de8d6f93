<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Attachment;
use App\Models\User;
use App\Rights\LayerRights;
use App\Storage\Records;
use Illuminate\Auth\Access\Response;

/** A file is seen by whoever may see its record, and changed by whoever may change that. */
final class AttachmentPolicy
{
    public function view(User $user, Attachment $attachment): Response
    {
        $sees = LayerRights::of($user, $attachment->layer)->maySee() && Records::seenBy($user, $attachment->layer)->where('id', $attachment->record_id)->exists();

        return $sees ? Response::allow() : Response::denyAsNotFound();
    }

    public function change(User $user, Attachment $attachment): Response
    {
        $seen = $this->view($user, $attachment);
        $author = Records::of($attachment->layer)->where('id', $attachment->record_id)->value('created_by');

        return $seen->denied() || LayerRights::of($user, $attachment->layer)->mayChange(is_int($author) ? $author : null) ? $seen : Response::deny();
    }
}

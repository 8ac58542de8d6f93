<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Attachment;
use App\Models\Conflict;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Rights\LayerRights;
use Illuminate\Auth\Access\Response;

/** A file is seen by whoever may see its record, and changed by whoever may change that. */
final class AttachmentPolicy
{
    public function view(User $user, Attachment $attachment): Response
    {
        // What lies in the bin with its layer is seen by nobody until it comes back.
        $sees =
            $attachment->layer !== null &&
            LayerRights::of($user, $attachment->layer)->maySee() &&
            VisibleRecords::for($user, $attachment->layer)->showsPhotosOf($attachment->record_id);
        // Of what is held there is no record yet; whoever decides over it must see what came with it.
        $sees =
            $sees ||
            ($attachment->layer !== null &&
                LayerRights::of($user, $attachment->layer)->mayDesign() &&
                Conflict::query()
                    ->where('layer_id', $attachment->layer_id)
                    ->where('record_id', $attachment->record_id)
                    ->exists());

        return $sees ? Response::allow() : Response::denyAsNotFound();
    }

    public function change(User $user, Attachment $attachment): Response
    {
        $seen = $this->view($user, $attachment);
        if ($seen->denied() || $attachment->layer === null) {
            return $seen;
        }
        $author = VisibleRecords::for($user, $attachment->layer)
            ->rows()
            ->where('id', $attachment->record_id)
            ->value('created_by');

        return LayerRights::of($user, $attachment->layer)->mayChange(is_int($author) ? $author : null)
            ? $seen
            : Response::deny();
    }
}

<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Upload;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Only the person who began an upload may go on with it. */
final class UploadPolicy
{
    public function use(User $user, Upload $upload): Response
    {
        return $upload->user_id === $user->id ? Response::allow() : Response::denyAsNotFound();
    }
}

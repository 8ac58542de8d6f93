<?php

declare(strict_types=1);

namespace App\Files;

use App\Models\Upload;

/** Uploads that nobody went on with; the photo stays announced, so the phone can begin again. */
final class ExpiredUploads
{
    public static function forget(): int
    {
        $expired = Upload::query()->where('expires_at', '<', now())->get();
        $expired->each(FileArrival::forget(...));

        return $expired->count();
    }
}

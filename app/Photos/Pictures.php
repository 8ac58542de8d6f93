<?php

declare(strict_types=1);

namespace App\Photos;

use App\Models\Attachment;
use Illuminate\Support\Facades\Storage;
use Intervention\Image\Drivers\Gd\Driver;
use Intervention\Image\ImageManager;

/**
 * Smaller copies of a photo, turned upright. They are drawn anew, so nothing of the original's metadata
 * (the place among it) is in them; what the public sees is always such a copy.
 */
final class Pictures
{
    public const SIZES = ['thumb' => 320, 'view' => 1280];

    /** @return string path on the disk `attachments` */
    public static function sized(Attachment $photo, string $size): string
    {
        $disk = Storage::disk('attachments');
        $path = $photo->path($size);
        if (! $disk->exists($path)) {
            $image = (new ImageManager(new Driver))->read((string) $disk->get($photo->path()));
            $image->scaleDown(self::SIZES[$size], self::SIZES[$size]);
            $disk->put($path, (string) $image->toJpeg(82));
        }

        return $path;
    }
}

<?php

declare(strict_types=1);

namespace App\Files;

use App\Models\Attachment;
use App\Processes\LimitedProcess;
use Illuminate\Contracts\Cache\LockTimeoutException;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\File;
use Illuminate\Support\Facades\Storage;
use Symfony\Component\HttpKernel\Exception\ServiceUnavailableHttpException;

/**
 * Smaller copies of a photo, turned upright. They are drawn anew, so nothing of the original's metadata
 * (the place among it) is in them; what the public sees is always such a copy.
 *
 * They are drawn by libvips, which scales while it reads, in a process of its own: a small file may claim a picture
 * that would fill the memory of any program that draws it whole.
 */
final class Pictures
{
    public const SIZES = ['thumb' => 320, 'view' => 1280];

    private const SECONDS = 60;

    private const MEMORY_KB = 2_000_000;

    /**
     * @return string|null path on the disk `attachments`; null where the picture cannot be drawn
     *
     * @throws ServiceUnavailableHttpException where somebody else has been drawing it for too long
     */
    public static function sized(Attachment $photo, string $size): ?string
    {
        $disk = Storage::disk('attachments');
        $path = $photo->path($size);
        if ($disk->exists($path)) {
            return $path;
        }
        // Told before a byte of it is decoded; it may have been taken in by a version that allowed more.
        if (
            $photo->width !== null &&
            $photo->height !== null &&
            $photo->width * $photo->height > FileArrival::MOST_PIXELS
        ) {
            return null;
        }
        try {
            // Once, however many ask for it at the same time.
            return Cache::lock("draw:{$photo->text()}:$size", self::SECONDS + 10)->block(
                self::SECONDS,
                static function () use ($disk, $photo, $path, $size): ?string {
                    if ($disk->exists($path)) {
                        return $path;
                    }
                    File::ensureDirectoryExists(storage_path('app/tmp'), 0o700);
                    $from = (string) tempnam(storage_path('app/tmp'), 'draw');
                    try {
                        $stream = $disk->readStream($photo->path());
                        file_put_contents($from, $stream);
                        $drawn = self::drawn($from, self::SIZES[$size]);
                    } finally {
                        @unlink($from);
                    }
                    if ($drawn !== null) {
                        $disk->put($path, $drawn);
                    }

                    return $drawn === null ? null : $path;
                },
            );
        } catch (LockTimeoutException) {
            throw new ServiceUnavailableHttpException(10);
        }
    }

    /**
     * @return string|null a JPEG no longer than so many pixels on either side, upright and without metadata; null of
     *     what is no picture
     */
    public static function drawn(string $file, int $edge): ?string
    {
        $to = "$file-$edge.jpg";
        try {
            (new LimitedProcess(self::SECONDS, self::MEMORY_KB))->run(
                [
                    'vipsthumbnail',
                    $file,
                    '--size',
                    "{$edge}x$edge>",
                    '--export-profile',
                    'srgb',
                    '-o',
                    $to.'[Q=82,strip]',
                ],
                ['VIPS_CONCURRENCY' => '1', 'TMPDIR' => dirname($file)],
            );

            return is_file($to) ? (string) file_get_contents($to) : null;
        } catch (\PinYard\Refused) {
            return null;
        } finally {
            @unlink($to);
        }
    }
}

<?php

declare(strict_types=1);

namespace App\Files;

use App\Models\Attachment;
use App\Models\Upload;
use App\Records\Cause;
use App\Records\RecordWriter;
use Illuminate\Support\Facades\Storage;
use PinYard\Device\FileKind;
use PinYard\Device\FileType;
use PinYard\Refused;

/** Decides over a file whose bytes have all arrived, and tells phones and boards of it. */
final class FileArrival
{
    /** Pixels; a small file can claim a huge picture, which would fill the memory when it is drawn. */
    public const MOST_PIXELS = 100_000_000;

    /** @throws Refused when the bytes are not what was announced, or no picture */
    public static function finish(Upload $upload, Attachment $photo): void
    {
        $file = $upload->file();
        if (hash_file('sha256', $file) !== $photo->sha256) {
            self::forget($upload);
            throw Refused::because('photo_sha_differs', 'photos', $photo->name, ['name' => $photo->name]);
        }
        $reason = self::reasonAgainst($file, $photo);
        if ($reason !== null) {
            self::settle($photo, ['state' => 'refused', 'reason' => $reason]);
            self::forget($upload);
            throw Refused::because($reason, 'photos', $photo->name, ['name' => $photo->name]);
        }

        $stream = fopen($file, 'rb') ?: throw new \RuntimeException("cannot read $file");
        Storage::disk('attachments')->put($photo->path(), $stream);
        fclose($stream);
        $isPicture = FileType::from($photo->type)->kind() === FileKind::Photo;
        [$width, $height] = $isPicture ? (getimagesize($file) ?: [null, null]) : [null, null];
        self::settle($photo, ['state' => 'stored', 'width' => $width, 'height' => $height]);
        self::forget($upload);
        if ($isPicture) {
            MakeThumbnails::dispatch($photo->text());
        }
    }

    private static function reasonAgainst(string $file, Attachment $photo): ?string
    {
        $head = (string) file_get_contents($file, length: FileType::HEAD);
        $type = FileType::from($photo->type);
        if ($type->kind() !== FileKind::Photo) {
            return $type->fits($head) ? null : 'file_other_kind';
        }
        $size = $type->fits($head) ? @getimagesize($file) : false;

        return match (true) {
            $size === false => 'photo_no_picture',
            $size[0] < 1 || $size[1] < 1 || $size[0] * $size[1] > self::MOST_PIXELS => 'photo_too_many_pixels',
            default => null,
        };
    }

    /**
     * The record counts as changed, under the layer's lock, so that the news reaches everyone.
     *
     * @param  array<string, mixed>  $changes
     */
    private static function settle(Attachment $photo, array $changes): void
    {
        RecordWriter::locked($photo->layer_id, Cause::Files, $photo->created_by, static function (
            RecordWriter $writer,
        ) use ($photo, $changes): void {
            $photo->update($changes);
            $writer->touch([$photo->record_id]);
        });
    }

    public static function forget(Upload $upload): void
    {
        if (is_file($upload->file())) {
            unlink($upload->file());
        }
        $upload->delete();
    }
}

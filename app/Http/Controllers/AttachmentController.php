<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Attachment;
use App\Photos\Pictures;
use Illuminate\Filesystem\FilesystemAdapter;
use Illuminate\Support\Facades\Storage;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\StreamedResponse;

final class AttachmentController
{
    #[OA\Get(path: '/api/v1/attachments/{attachment}/{size}', summary: 'A photo: as it came, 1,280 px or 320 px', tags: ['Attachments'], responses: [new OA\Response(response: 200, description: 'The picture')])]
    public function show(Attachment $attachment, string $size): StreamedResponse
    {
        return self::send($attachment, $size, 'private, max-age=86400');
    }

    public static function send(Attachment $photo, string $size, string $cache): StreamedResponse
    {
        abort_if($photo->state !== 'stored', 404);
        $path = $size === 'original' ? $photo->path() : Pictures::sized($photo, $size);

        $disk = Storage::disk('attachments');
        assert($disk instanceof FilesystemAdapter);

        return $disk->response($path, null, [
            'Content-Type' => $size === 'original' ? $photo->type : 'image/jpeg',
            'Cache-Control' => $cache,
        ]);
    }
}

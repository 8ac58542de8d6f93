<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Files\Pictures;
use App\Models\Attachment;
use App\People\SignedIn;
use App\Records\RecordFiles;
use App\Records\VisibleRecords;
use Illuminate\Filesystem\FilesystemAdapter;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Storage;
use OpenApi\Attributes as OA;
use PinYard\Device\FileKind;
use PinYard\Device\FileType;
use Symfony\Component\HttpFoundation\StreamedResponse;

final class AttachmentController
{
    #[
        OA\Get(
            path: '/api/v1/attachments/{attachment}/{size}',
            summary: 'A photo: as it came, 1,280 px or 320 px',
            tags: ['Attachments'],
            responses: [new OA\Response(response: 200, description: 'The picture')],
        ),
    ]
    public function show(Request $request, Attachment $attachment, string $size): StreamedResponse
    {
        // The file as it came says where it was taken; of a place that is not told there are those drawn anew.
        if ($size === 'original' && $attachment->layer !== null && ! SignedIn::of($request)->can('change', $attachment)
            && ! VisibleRecords::for(SignedIn::of($request), $attachment->layer)
                ->showsPhotosOf($attachment->record_id, true)) {
            abort(404);
        }

        return self::send($attachment, $size, 'private, max-age=86400');
    }

    #[
        OA\Delete(
            path: '/api/v1/attachments/{attachment}',
            summary: 'Take a file away from its record; it can be put back',
            tags: ['Attachments'],
            responses: [new OA\Response(response: 200, description: 'The record')],
        ),
    ]
    public function destroy(Request $request, Attachment $attachment): JsonResponse
    {
        return new JsonResponse((new RecordFiles(SignedIn::of($request)))->remove($attachment));
    }

    #[
        OA\Post(
            path: '/api/v1/attachments/{attachment}/restore',
            summary: 'Put a file back that was taken away',
            tags: ['Attachments'],
            responses: [new OA\Response(response: 200, description: 'The record')],
        ),
    ]
    public function restore(Request $request, Attachment $attachment): JsonResponse
    {
        return new JsonResponse((new RecordFiles(SignedIn::of($request)))->putBack($attachment));
    }

    public static function send(Attachment $photo, string $size, string $cache): StreamedResponse
    {
        // Smaller copies are drawn of pictures alone.
        abort_if(
            $photo->state !== 'stored' ||
                ($size !== 'original' && FileType::from($photo->type)->kind() !== FileKind::Photo),
            404,
        );
        $path = $size === 'original' ? $photo->path() : Pictures::sized($photo, $size) ?? abort(404);

        $disk = Storage::disk('attachments');
        assert($disk instanceof FilesystemAdapter);

        return $disk->response($path, null, [
            'Content-Type' => $size === 'original' ? $photo->type : 'image/jpeg',
            'Cache-Control' => $cache,
        ]);
    }
}

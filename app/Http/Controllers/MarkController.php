<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Mark;
use App\Models\Programme;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Str;
use OpenApi\Attributes as OA;
use PinYard\Carto\OwnMark;
use PinYard\Refused;

/** Marks of one's own. Whoever sees a map that uses one may fetch it by its token, as on a shared map. */
final class MarkController
{
    private const MOST = 200;

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/marks',
            summary: 'Marks of one\'s own',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The marks')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        return new JsonResponse(
            Mark::query()
                ->where('programme_id', $programme->id)
                ->orderBy('name')
                ->get(['token', 'name'])
                ->map(static fn (Mark $m): array => $m->line())
                ->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/marks',
            summary: 'Add a mark: an SVG of shapes, or a PNG',
            description: 'The same picture twice is one mark.',
            tags: ['Maps'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\MediaType(
                    mediaType: 'multipart/form-data',
                    schema: new OA\Schema(
                        required: ['file'],
                        properties: [
                            new OA\Property(property: 'file', type: 'string', format: 'binary'),
                            new OA\Property(property: 'name', type: 'string'),
                        ],
                        type: 'object',
                    ),
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The mark')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        $file = $request->file('file');
        if (! $file instanceof \Illuminate\Http\UploadedFile || ! $file->isValid()) {
            throw Refused::because('mark_unreadable', 'file');
        }
        $mark = OwnMark::read((string) file_get_contents($file->getPathname()));
        $bytes = $mark->type === 'png' ? self::small($mark->bytes) : $mark->bytes;
        $known = Mark::query()->where('programme_id', $programme->id)->where('sha256', hash('sha256', $bytes))->first();
        if ($known === null && Mark::query()->where('programme_id', $programme->id)->count() >= self::MOST) {
            throw Refused::because('too_many', 'file', self::MOST + 1, [
                'count' => self::MOST + 1,
                'most' => self::MOST,
            ]);
        }
        $name = trim((string) $request->string('name')) ?: pathinfo($file->getClientOriginalName(), PATHINFO_FILENAME);
        $known ??= Mark::query()->create([
            'token' => Str::lower(Str::random(22)),
            'programme_id' => $programme->id,
            'name' => mb_substr($name, 0, 60) ?: 'Mark',
            'type' => $mark->type,
            'sha256' => hash('sha256', $bytes),
            'body' => $bytes,
            'created_by' => SignedIn::of($request)->id,
        ]);

        return new JsonResponse($known->line(), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/open/marks/{mark}',
            summary: 'The picture of a mark',
            tags: ['Open'],
            responses: [new OA\Response(response: 200, description: 'SVG or PNG')],
        ),
    ]
    public function show(Mark $mark): Response
    {
        return new Response($mark->body, 200, [
            // Opened by itself it is a page of somebody else's making: the policy of all answers lets it load and run
            // nothing.
            'Content-Type' => $mark->type === 'svg' ? 'image/svg+xml' : 'image/png',
            'Cache-Control' => 'public, max-age=31536000, immutable',
            'X-Content-Type-Options' => 'nosniff',
        ]);
    }

    /** Drawn anew at the size that maps need, so nothing but the picture is kept. */
    private static function small(string $png): string
    {
        $image = @imagecreatefromstring($png) ?: throw Refused::because('mark_unreadable', 'file');
        [$width, $height] = [imagesx($image), imagesy($image)];
        $scale = min(1, 96 / max($width, $height));
        $small = imagecreatetruecolor(max(1, (int) round($width * $scale)), max(1, (int) round($height * $scale)));
        imagealphablending($small, false);
        imagesavealpha($small, true);
        imagecopyresampled($small, $image, 0, 0, 0, 0, imagesx($small), imagesy($small), $width, $height);
        ob_start();
        imagepng($small, null, 9);

        return (string) ob_get_clean();
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Attachment;
use App\Models\Board;
use App\Models\Map;
use App\Publishing\GatePage;
use App\Publishing\MapPage;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** What anyone with a link gets. The link itself is the right; a narrowed audience makes it a dead end. */
final class OpenController
{
    #[OA\Get(path: '/api/v1/open/maps/{token}', summary: 'A shared map', tags: ['Open'], responses: [new OA\Response(response: 200, description: 'Style layers, legend, features')])]
    public function map(Request $request, string $token): JsonResponse|Response
    {
        $page = new MapPage(Map::byLink($token), null);
        $etag = '"'.$page->tag().'"';
        if ($request->header('If-None-Match') === $etag) {
            return new Response('', 304, ['ETag' => $etag]);
        }

        return new JsonResponse($page->view(), 200, ['ETag' => $etag, 'Cache-Control' => 'no-cache']);
    }

    #[OA\Get(path: '/api/v1/open/maps/{token}/features.geojson', summary: 'The points of a shared map as GeoJSON', tags: ['Open'], responses: [new OA\Response(response: 200, description: 'A FeatureCollection')])]
    public function features(string $token): JsonResponse
    {
        return new JsonResponse((new MapPage(Map::byLink($token), null))->features(), 200, ['Content-Type' => 'application/geo+json']);
    }

    #[OA\Get(path: '/api/v1/open/maps/{token}/records/{record}', summary: 'The card of a record on a shared map', tags: ['Open'], responses: [new OA\Response(response: 200, description: 'The card')])]
    public function card(string $token, string $record): JsonResponse
    {
        return new JsonResponse((new MapPage(Map::byLink($token), null))->card($record) ?? abort(404));
    }

    #[OA\Get(path: '/api/v1/open/maps/{token}/photos/{attachment}/{size}', summary: 'A photo on a shared map, drawn anew without its metadata', tags: ['Open'], responses: [new OA\Response(response: 200, description: 'The picture')])]
    public function photo(string $token, Attachment $attachment, string $size): StreamedResponse
    {
        $photo = (new MapPage(Map::byLink($token), null))->photo($attachment) ?? abort(404);

        return AttachmentController::send($photo, $size, 'private, max-age=300');
    }

    #[OA\Get(path: '/api/v1/open/gates/{token}', summary: 'The gate of a programme: what hangs in its gallery', tags: ['Open'], responses: [new OA\Response(response: 200, description: 'Title, about, colour, things: open ones with their address, closed ones with their title alone')])]
    public function gate(string $token): JsonResponse
    {
        return new JsonResponse(GatePage::front(GatePage::byLink($token)));
    }

    #[OA\Get(path: '/api/v1/open/boards/{token}', summary: 'The answers of a shared board', tags: ['Open'], responses: [new OA\Response(response: 200, description: 'The answers'), new OA\Response(response: 304, description: 'Nothing has changed')])]
    public function board(Request $request, string $token): JsonResponse|Response
    {
        return BoardController::answer($request, Board::byLink($token), null);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\KeptAnswer;
use App\Boards\BoardAnswers;
use App\Boards\BoardPicks;
use App\Boards\BoardSources;
use App\Boards\TilesOfBoard;
use App\Http\Polls\Asked;
use App\Maps\MapPage;
use App\Maps\Picture\MapPicture;
use App\Maps\WallAsked;
use App\Models\Map;
use App\Publish\GatePage;
use App\Rights\Viewer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** What anyone with a link gets. The link itself is the right; a narrowed audience makes it a dead end. */
final class OpenController
{
    #[
        OA\Get(
            path: '/api/v1/open/maps/{token}',
            summary: 'A shared map',
            tags: ['Open'],
            parameters: [new OA\Parameter(ref: '#/components/parameters/map_search')],
            responses: [new OA\Response(response: 200, description: 'Of each layer its style and legend')],
        ),
    ]
    public function map(Request $request, string $token): JsonResponse|Response
    {
        return KeptAnswer::unlessKnown(
            $request,
            Asked::sharedMap($token, MapPage::asked($request)) ?? abort(404),
            static fn (): KeptAnswer => self::page($token, $request)->kept(),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/open/maps/{token}/picture.png',
            summary: 'A small picture of a shared map',
            tags: ['Open'],
            responses: [new OA\Response(response: 200, description: 'The picture')],
        ),
    ]
    public function picture(Request $request, string $token): Response
    {
        return MapPicture::of(self::page($token))->response($request);
    }

    #[
        OA\Get(
            path: '/api/v1/open/maps/{token}/layers/{part}/features.geojson',
            summary: 'The records of a layer of a shared map as GeoJSON',
            description: 'With the version that the map names, it is this very answer and can be kept.',
            tags: ['Open'],
            parameters: [new OA\Parameter(ref: '#/components/parameters/map_search')],
            responses: [new OA\Response(response: 200, description: 'A FeatureCollection')],
        ),
    ]
    public function features(Request $request, string $token, string $part): JsonResponse|Response
    {
        $layer = self::page($token, $request)->layer($part) ?? abort(404);

        return $layer->features()->named($request, 'application/geo+json');
    }

    #[
        OA\Get(
            path: '/api/v1/open/maps/{token}/layers/{part}/records/{record}',
            summary: 'The card of a record on a shared map',
            tags: ['Open'],
            responses: [new OA\Response(response: 200, description: 'The card')],
        ),
    ]
    public function card(string $token, string $part, string $record): JsonResponse
    {
        return new JsonResponse(self::page($token)->layer($part)?->card($record) ?? abort(404));
    }

    #[
        OA\Get(
            path: '/api/v1/open/maps/{token}/wall',
            summary: 'The records of a map by their photos, those collected last first',
            tags: ['Open'],
            parameters: [
                new OA\Parameter(ref: '#/components/parameters/map_search'),
                new OA\Parameter(ref: '#/components/parameters/wall_part'),
                new OA\Parameter(ref: '#/components/parameters/wall_after'),
                new OA\Parameter(ref: '#/components/parameters/wall_before'),
                new OA\Parameter(ref: '#/components/parameters/wall_from'),
            ],
            responses: [new OA\Response(response: 200, description: 'Photos, with where and when they were taken')],
        ),
    ]
    public function wall(Request $request, string $token): JsonResponse
    {
        return new JsonResponse(WallAsked::of($request, self::page($token, $request)));
    }

    #[
        OA\Get(
            path: '/api/v1/open/maps/{token}/table',
            summary: 'Rows of the table beside a shared map',
            tags: ['Open'],
            parameters: [
                new OA\Parameter(ref: '#/components/parameters/map_search'),
                new OA\Parameter(ref: '#/components/parameters/bbox'),
                new OA\Parameter(ref: '#/components/parameters/table_sort'),
                new OA\Parameter(ref: '#/components/parameters/table_down'),
                new OA\Parameter(ref: '#/components/parameters/table_class'),
                new OA\Parameter(ref: '#/components/parameters/table_pick'),
                new OA\Parameter(ref: '#/components/parameters/table_limit'),
            ],
            responses: [new OA\Response(response: 200, description: 'Columns, rows, the number in each class')],
        ),
    ]
    public function table(Request $request, string $token): JsonResponse|Response
    {
        return KeptAnswer::told(self::page($token, $request)->rows($request) ?? abort(404))->response($request);
    }

    #[
        OA\Get(
            path: '/api/v1/open/maps/{token}/photos/{attachment}/{size}',
            summary: 'A photo on a shared map, drawn anew without its metadata',
            tags: ['Open'],
            responses: [new OA\Response(response: 200, description: 'The picture')],
        ),
    ]
    public function photo(string $token, string $attachment, string $size): StreamedResponse
    {
        $photo = self::page($token)->photo($attachment) ?? abort(404);

        return AttachmentController::send($photo, $size, 'private, max-age=300');
    }

    #[
        OA\Get(
            path: '/api/v1/open/gates/{token}',
            summary: 'The gate of a programme: what hangs in its gallery',
            tags: ['Open'],
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'Title, about, colour, things: open ones with their address, closed ones with '
                        .'their title alone',
                ),
            ],
        ),
    ]
    public function gate(string $token): JsonResponse
    {
        return new JsonResponse(GatePage::front(GatePage::byLink($token)));
    }

    #[
        OA\Get(
            path: '/api/v1/open/boards/{token}',
            summary: 'The answers of a shared board',
            tags: ['Open'],
            responses: [
                new OA\Response(response: 200, description: 'The answers'),
                new OA\Response(response: 304, description: 'Nothing has changed'),
            ],
        ),
    ]
    public function board(Request $request, string $token): JsonResponse|Response
    {
        $asked = BoardPicks::asked($request);

        return KeptAnswer::unlessKnown(
            $request,
            Asked::sharedBoard($token, $asked) ?? abort(404),
            static fn (): KeptAnswer => BoardAnswers::of(BoardSources::forLink($token) ?? abort(404), $asked),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/open/boards/{token}/tiles/{tile}/layers/{part}/features.geojson',
            summary: 'The records of a layer of the map in a tile of a shared board as GeoJSON',
            tags: ['Open'],
            responses: [new OA\Response(response: 200, description: 'A FeatureCollection')],
        ),
    ]
    public function tileFeatures(Request $request, string $token, string $tile, string $part): JsonResponse|Response
    {
        return self::tiles($request, $token)->features($request, $tile, $part);
    }

    #[
        OA\Get(
            path: '/api/v1/open/boards/{token}/tiles/{tile}/layers/{part}/records/{record}',
            summary: 'The card of a record on the map in a tile of a shared board',
            tags: ['Open'],
            responses: [new OA\Response(response: 200, description: 'The card')],
        ),
    ]
    public function tileCard(Request $request, string $token, string $tile, string $part, string $record): JsonResponse
    {
        return self::tiles($request, $token)->card($tile, $part, $record, $request->query('from'));
    }

    #[
        OA\Get(
            path: '/api/v1/open/boards/{token}/tiles/{tile}/photos/{attachment}/{size}',
            summary: 'A photo on a shared board, drawn anew without its metadata',
            tags: ['Open'],
            responses: [new OA\Response(response: 200, description: 'The picture')],
        ),
    ]
    public function tilePhoto(
        Request $request,
        string $token,
        string $tile,
        string $attachment,
        string $size,
    ): StreamedResponse {
        return AttachmentController::send(
            self::tiles($request, $token)->photo($tile, $attachment),
            $size,
            'private, max-age=300',
        );
    }

    private static function tiles(Request $request, string $token): TilesOfBoard
    {
        return new TilesOfBoard(BoardSources::forLink($token) ?? abort(404), BoardPicks::asked($request));
    }

    private static function page(string $token, ?Request $request = null): MapPage
    {
        $map = Map::byLink($token);

        return new MapPage($map, Viewer::link($map), $request === null ? null : MapPage::asked($request));
    }
}

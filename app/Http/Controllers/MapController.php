<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Documents\MergedInput;
use App\Http\Requests\SaveMap;
use App\Maps\MapPage;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\People\SignedIn;
use App\Rights\Viewer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;
use PinYard\Refused;

final class MapController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/maps',
            summary: 'Maps of a programme',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The maps')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        return new JsonResponse($programme->maps()->orderBy('title')->get()->map(self::present(...))->all());
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/maps',
            summary: 'Make a map of a layer',
            description: 'What is left out is chosen from the layer: a look by its first choice field, a card with '
                .'all fields, the programme\'s area.',
            tags: ['Maps'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/MapInput'),
            ),
            responses: [new OA\Response(response: 201, description: 'The map')],
        ),
    ]
    public function store(SaveMap $request, Programme $programme): JsonResponse
    {
        $layer = $programme->layers()->findOrFail($request->integer('layer'));
        assert($layer instanceof Layer);
        $map = $programme->maps()->make($request->fields($layer, null));
        $map->openTo($request->audience());

        return new JsonResponse(self::present($map), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}',
            summary: 'A map',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The map')],
        ),
    ]
    public function show(Map $map): JsonResponse
    {
        return new JsonResponse(self::present($map));
    }

    #[
        OA\Patch(
            path: '/api/v1/maps/{map}',
            summary: 'Change a map',
            tags: ['Maps'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/MapInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'The map')],
        ),
    ]
    public function update(SaveMap $request, Map $map): JsonResponse
    {
        $map = DB::transaction(static function () use ($request, $map): Map {
            $now = Map::query()->with('layer.programme')->lockForUpdate()->findOrFail($map->id);
            $parts = MergedInput::of(
                $request,
                self::present($now),
                ['title', 'look', 'card', 'extent', 'viewpoints'],
            );
            $layer = $now->layer ?? throw Refused::because('map_layer_gone', 'layer');
            $now->fill($request->merge($parts)->fields($layer, $now));
            $now->openTo(
                $request->has('audience') ? $request->audience() : $now->audience,
                $request->json('new_link') === true,
            );

            return $now;
        });

        return new JsonResponse(self::present($map));
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/view',
            summary: 'A map as its audience gets it: style layers, legend, features',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The view')],
        ),
    ]
    public function view(Request $request, Map $map): JsonResponse|Response
    {
        return (new MapPage($map, Viewer::person(SignedIn::of($request))))->kept()->response($request);
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/warnings',
            summary: 'What whoever makes a map should know of its marks',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'Sentences')],
        ),
    ]
    public function warnings(Request $request, Map $map): JsonResponse
    {
        $page = new MapPage($map, Viewer::person(SignedIn::of($request)));

        return new JsonResponse(['warnings' => $page->warnings()]);
    }

    /** @return array<string, mixed> */
    private static function present(Map $map): array
    {
        return [
            'id' => $map->id,
            'layer' => $map->layer_id,
            'title' => $map->title,
            'look' => $map->look,
            'card' => $map->card,
            'extent' => $map->extent,
            'viewpoints' => $map->viewpoints ?? [],
            'audience' => $map->audience->value,
            'address' => $map->link_token === null ? null : "/m/{$map->link_token}",
        ];
    }
}

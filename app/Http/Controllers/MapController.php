<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\KeptAnswer;
use App\Documents\MergedInput;
use App\Http\Requests\SaveMap;
use App\Maps\LayerFinder;
use App\Maps\LayerPage;
use App\Maps\MapLayers;
use App\Maps\MapPage;
use App\Maps\MapSearches;
use App\Maps\MapTables;
use App\Maps\Picture\MapPicture;
use App\Maps\WallAsked;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\User;
use App\People\SignedIn;
use App\Plan\Reach;
use App\Publish\Opening;
use App\Rights\ShownTo;
use App\Rights\Viewer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;
use PinYard\Refused;

final class MapController
{
    private const PARTS = ['title', 'about', 'layers', 'extent', 'viewpoints', 'searches', 'beside'];

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/maps',
            summary: 'Maps of a programme',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The maps')],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(
            ShownTo::mapsOf($programme, SignedIn::of($request))->map(self::present(...))->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/maps',
            summary: 'Make a map',
            description: 'Of one layer, or of several with all that they say. What is left out is chosen: a look by '
                .'the first choice field, a card with all fields, the programme\'s area.',
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
        Opening::allow(SignedIn::of($request), $programme, $request->audience());
        $layers = new MapLayers(SignedIn::of($request), $programme, null);
        if ($request->has('layer')) {
            $layer = $programme->layers()->findOrFail($request->integer('layer'));
            assert($layer instanceof Layer);
            $parts = $layers->read([['layer' => $layer->id] + $request->only(['look', 'card'])]);
        } else {
            $parts = $layers->read($request->json('layers') ?? []);
        }
        $map = $programme->maps()->make([
            'extent' => $programme->area()->toArray(),
            'viewpoints' => [],
            'owner_id' => SignedIn::of($request)->id,
            ...$request->fields(),
            'layers' => $parts,
        ]);
        assert($map instanceof Map);
        $map->beside = MapTables::read($request->json('beside'), $map, SignedIn::of($request));
        $map->searches = MapSearches::read($request->json('searches') ?? [], $map, SignedIn::of($request));
        $some = $request->shownTo($programme);
        DB::transaction(static fn () => Opening::set(SignedIn::of($request), $map, $request->audience(), $some));

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
        OA\Get(
            path: '/api/v1/maps/{map}/reach',
            summary: 'Which of its layers somebody whom it is shown to does not see',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The layers')],
        ),
    ]
    public function reach(Request $request, Map $map): JsonResponse
    {
        return new JsonResponse(array_map(
            static fn (array $l): array => ['people' => count($l['people'])] + $l,
            Reach::of($map->programme)->lacking($map, SignedIn::of($request)),
        ));
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
        $person = SignedIn::of($request);
        $map = DB::transaction(static function () use ($request, $map, $person): Map {
            $now = Map::query()->with('programme')->lockForUpdate()->findOrFail($map->id);
            $in = self::asStored($request->json()->all(), $person, $now);
            $request->merge(MergedInput::merge($in, self::present($now), self::PARTS));
            $now->fill($request->fields());
            if ($request->has('layers')) {
                $now->layers = (new MapLayers($person, $now->programme, $now))->read($request->input('layers'));
            }
            if ($request->has('searches')) {
                $now->searches = MapSearches::read($request->input('searches'), $now, $person);
            }
            if ($request->has('beside')) {
                $now->beside = MapTables::read($request->input('beside'), $now, $person);
            }
            $audience = $request->has('audience') ? $request->audience() : $now->audience;
            $some = $request->has('shown_to') ? $request->shownTo($now->programme) : $now->shown_to ?? [];
            $anew = $request->json('new_link') === true;
            Opening::set($person, $now, $audience, $some, $anew);

            return $now;
        });

        return new JsonResponse(self::present($map));
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/view',
            summary: 'A map as its audience gets it: of each layer its style and legend',
            tags: ['Maps'],
            parameters: [new OA\Parameter(ref: '#/components/parameters/map_search')],
            responses: [new OA\Response(response: 200, description: 'The view')],
        ),
    ]
    public function view(Request $request, Map $map): JsonResponse|Response
    {
        return self::page($request, $map)->kept()->response($request);
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/picture.png',
            summary: 'A small picture of a map, of what this person sees of it',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The picture')],
        ),
    ]
    public function picture(Request $request, Map $map): Response
    {
        return MapPicture::of(new MapPage($map, Viewer::person(SignedIn::of($request))))->response($request);
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/layers/{part}/features.geojson',
            summary: 'What a layer of a map draws',
            description: 'With the version that the view names, it is this very answer and can be kept.',
            tags: ['Maps'],
            parameters: [new OA\Parameter(ref: '#/components/parameters/map_search')],
            responses: [new OA\Response(response: 200, description: 'A FeatureCollection')],
        ),
    ]
    public function features(Request $request, Map $map, string $part): JsonResponse|Response
    {
        return self::layer($request, $map, $part)->features()->named($request, 'application/geo+json');
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/layers/{part}/records/{record}',
            summary: 'The card of a record on a map',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The card')],
        ),
    ]
    public function card(Request $request, Map $map, string $part, string $record): JsonResponse
    {
        return new JsonResponse(self::layer($request, $map, $part)->card($record) ?? abort(404));
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/wall',
            summary: 'The records of a map by their photos, those collected last first',
            tags: ['Maps'],
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
    public function wall(Request $request, Map $map): JsonResponse
    {
        return new JsonResponse(WallAsked::of($request, self::page($request, $map)));
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/table',
            summary: 'Rows of the table beside a map',
            tags: ['Maps'],
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
    public function table(Request $request, Map $map): JsonResponse|Response
    {
        $page = self::page($request, $map);

        return KeptAnswer::told($page->rows($request) ?? abort(404))->response($request);
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/advice',
            summary: 'What whoever makes a map should know of its marks and its weight',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'Sentences by layer; how heavy it is, and why')],
        ),
    ]
    public function advice(Request $request, Map $map): JsonResponse
    {
        return new JsonResponse(self::page($request, $map)->advice());
    }

    #[
        OA\Get(
            path: '/api/v1/maps/{map}/addable',
            summary: 'Layers that can be put on a map, found by words',
            description: 'Of all that one sees in one\'s programmes: those of the map\'s own first, then starred ones.',
            tags: ['Maps'],
            parameters: [new OA\Parameter(name: 'q', in: 'query', schema: new OA\Schema(type: 'string'))],
            responses: [new OA\Response(response: 200, description: 'The layers')],
        ),
    ]
    public function addable(Request $request, Map $map): JsonResponse
    {
        return new JsonResponse(
            (new LayerFinder(SignedIn::of($request), $map->programme))->find((string) $request->query('q', '')),
        );
    }

    /**
     * Who changes a map in quick succession names as what was there what they have just sent, and not what became of
     * it: choices in their order, defaults filled in. Read as it was read then, both are the same again.
     *
     * @param  array<mixed>  $in
     * @return array<mixed>
     */
    private static function asStored(array $in, User $person, Map $map): array
    {
        if (is_array($in['was'] ?? null) && is_array($in['was']['layers'] ?? null)) {
            try {
                $layers = new MapLayers($person, $map->programme, $map);
                $in['was']['layers'] = $layers->read($in['was']['layers']);
            } catch (Refused) {
                // What nobody could have saved is taken as it is.
            }
        }

        return $in;
    }

    private static function page(Request $request, Map $map): MapPage
    {
        return new MapPage($map, Viewer::person(SignedIn::of($request)), MapPage::asked($request));
    }

    private static function layer(Request $request, Map $map, string $part): LayerPage
    {
        return self::page($request, $map)->layer($part) ?? abort(404);
    }

    /** @return array<string, mixed> */
    private static function present(Map $map): array
    {
        return [
            'id' => $map->id,
            'title' => $map->title,
            'about' => $map->about ?? '',
            'layers' => $map->layers,
            'extent' => $map->extent,
            'viewpoints' => $map->viewpoints ?? [],
            'searches' => $map->searches ?? [],
            'beside' => $map->beside,
            'audience' => $map->audience->value,
            'shown_to' => $map->shown_to ?? [],
            'owner' => $map->owner_id,
            'address' => $map->link_token === null ? null : "/m/{$map->link_token}",
        ];
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Programme;
use App\Models\Role;
use App\Models\Shelf;
use App\People\SignedIn;
use App\Programmes\Catalogue;
use App\Programmes\Search;
use App\Programmes\TidyUpRun;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Plan\TidyUp;
use PinYard\Refused;

final class CatalogueController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/things',
            summary: 'All layers, maps and boards of a programme, with shelves, tags, purposes and stars',
            tags: ['Housekeeping'],
            parameters: [
                new OA\Parameter(
                    name: 'bin',
                    in: 'query',
                    description: 'those in the bin instead',
                    schema: new OA\Schema(type: 'boolean'),
                ),
            ],
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'The things, the shelves, the purposes in use, and who can own things',
                ),
            ],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        $things = Catalogue::of($programme, SignedIn::of($request), $request->boolean('bin'));
        $purposes = array_values(
            array_unique([...TidyUp::PURPOSES, ...array_merge([], ...array_column($things, 'purposes'))]),
        );

        return new JsonResponse([
            'things' => $things,
            'shelves' => Shelf::query()
                ->where('programme_id', $programme->id)
                ->orderBy('name')
                ->get(['id', 'name']),
            'purposes' => $purposes,
            'owners' => $programme
                ->members()
                ->where('role', Role::Coordinator)
                ->with('user')
                ->get()
                ->map(static fn ($m): array => ['id' => $m->user_id, 'name' => $m->user->name])
                ->all(),
        ]);
    }

    #[
        OA\Post(
            path: '/api/v1/things',
            summary: 'One action on several things at once',
            description: 'Shelf, tag, untag, purpose, unpurpose, star, unstar, copy, hand_over, bin, restore. All '
                .'of them or none.',
            tags: ['Housekeeping'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['action', 'things'],
                    properties: [
                        new OA\Property(property: 'action', type: 'string'),
                        new OA\Property(
                            property: 'things',
                            type: 'array',
                            items: new OA\Items(
                                properties: [
                                    new OA\Property(
                                        property: 'kind',
                                        type: 'string',
                                        enum: ['programme', 'layer', 'map', 'board'],
                                    ),
                                    new OA\Property(property: 'id', type: 'integer'),
                                ],
                            ),
                        ),
                        new OA\Property(
                            property: 'with',
                            description: 'shelf or owner by number, tag or purpose by word; null takes off the shelf',

                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The things as they are now')],
        ),
    ]
    public function tidy(Request $request): JsonResponse
    {
        return new JsonResponse((new TidyUpRun(SignedIn::of($request)))->run(TidyUp::read($request->json()->all())));
    }

    #[
        OA\Get(
            path: '/api/v1/bin',
            summary: 'My programmes in the bin',
            tags: ['Housekeeping'],
            responses: [new OA\Response(response: 200, description: 'The programmes')],
        ),
    ]
    public function bin(Request $request): JsonResponse
    {
        $stars = Catalogue::stars(SignedIn::of($request));
        $programmes = Programme::binned()
            ->whereHas(
                'members',
                static fn ($m) => $m->where('user_id', SignedIn::of($request)->id)->where('role', Role::Coordinator),
            )
            ->with('owner')
            ->get()
            ->sortByDesc('deleted_at');

        return new JsonResponse(
            $programmes
                ->map(static fn (Programme $p): array => Catalogue::present('programme', $p, $stars))
                ->values()
                ->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/shelves',
            summary: 'Put up a shelf',
            tags: ['Housekeeping'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['name'],
                    properties: [new OA\Property(property: 'name', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The shelf')],
        ),
    ]
    public function shelf(Request $request, Programme $programme): JsonResponse
    {
        $shelf = Shelf::query()->create([
            'programme_id' => $programme->id,
            'name' => self::name($request, $programme, null),
        ]);

        return new JsonResponse(['id' => $shelf->id, 'name' => $shelf->name], 201);
    }

    #[
        OA\Patch(
            path: '/api/v1/programmes/{programme}/shelves/{shelf}',
            summary: 'Rename a shelf',
            tags: ['Housekeeping'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['name'],
                    properties: [new OA\Property(property: 'name', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The shelf')],
        ),
    ]
    public function rename(Request $request, Programme $programme, int $shelf): JsonResponse
    {
        $found = Shelf::query()->where('programme_id', $programme->id)->findOrFail($shelf);
        $found->update(['name' => self::name($request, $programme, $found)]);

        return new JsonResponse(['id' => $found->id, 'name' => $found->name]);
    }

    #[
        OA\Delete(
            path: '/api/v1/programmes/{programme}/shelves/{shelf}',
            summary: 'Take a shelf down; what stands on it stays',
            tags: ['Housekeeping'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function takeDown(Programme $programme, int $shelf): Response
    {
        Shelf::query()->where('programme_id', $programme->id)->findOrFail($shelf)->delete();

        return response()->noContent();
    }

    #[
        OA\Get(
            path: '/api/v1/search',
            summary: 'Search over everything that I may see',
            tags: ['Housekeeping'],
            parameters: [
                new OA\Parameter(name: 'q', in: 'query', required: true, schema: new OA\Schema(type: 'string')),
            ],
            responses: [new OA\Response(response: 200, description: 'What was found, a few of each kind')],
        ),
    ]
    public function search(Request $request): JsonResponse
    {
        $text = $request->query('q');

        $search = new Search(SignedIn::of($request));

        return new JsonResponse($search->for(is_string($text) ? mb_substr($text, 0, 100) : ''));
    }

    private static function name(Request $request, Programme $programme, ?Shelf $but): string
    {
        $name = is_string($request->json('name')) ? trim($request->json('name')) : '';
        if ($name === '' || mb_strlen($name) > 80) {
            throw Refused::because($name === '' ? 'empty' : 'too_long', 'name', $name, [
                'length' => mb_strlen($name),
                'most' => 80,
            ]);
        }
        if (
            Shelf::query()
                ->where('programme_id', $programme->id)
                ->where('name', $name)
                ->when($but !== null, static fn ($q) => $q->whereKeyNot($but?->id))
                ->exists()
        ) {
            throw Refused::because('shelf_doubled', 'name', $name, ['name' => $name]);
        }

        return $name;
    }
}

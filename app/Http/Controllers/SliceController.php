<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Models\Slice;
use App\People\SignedIn;
use App\Records\VisibleRecords;
use App\Slices\Askable;
use App\Slices\SliceBook;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;
use PinYard\Overtaken;
use PinYard\Refused;

/** Named rules on the records of a layer; exports, fills, boards and lists go by them. */
final class SliceController
{
    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/slices',
            summary: 'Slices of a layer',
            tags: ['Slices'],
            responses: [new OA\Response(response: 200, description: 'The slices')],
        ),
    ]
    public function index(Layer $layer): JsonResponse
    {
        return new JsonResponse(
            $layer
                ->slices()
                ->orderBy('name')
                ->get(['id', 'name', 'filter']),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/askable',
            summary: 'What rules on a layer can ask for: fields with their tests and choices, crews, areas',
            tags: ['Slices'],
            responses: [new OA\Response(response: 200, description: 'Subjects, crews, areas by layer')],
        ),
    ]
    public function askable(Request $request, Layer $layer): JsonResponse
    {
        return new JsonResponse(Askable::of($layer, SignedIn::of($request)));
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/slices/try',
            summary: 'How many records a rule finds, and what it would be called',
            tags: ['Slices'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['filter'],
                    properties: [new OA\Property(property: 'filter', ref: '#/components/schemas/Filter')],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'Those found, all that there are, the name')],
        ),
    ]
    public function try(Request $request, Layer $layer): JsonResponse
    {
        $book = new SliceBook($layer);
        $filter = $book->read($request->json('filter'));
        $visible = VisibleRecords::for(SignedIn::of($request), $layer);

        return new JsonResponse([
            'found' => $visible->asked($filter)->count(),
            'of' => $visible->count(),
            'name' => $book->nameFor($filter),
        ]);
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/slices',
            summary: 'Make a slice',
            description: 'Without a name it gets one from its rule.',
            tags: ['Slices'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/SliceInput'),
            ),
            responses: [new OA\Response(response: 201, description: 'The slice')],
        ),
    ]
    public function store(Request $request, Layer $layer): JsonResponse
    {
        $slice = $layer->slices()->create($this->asked($request, $layer));

        return new JsonResponse(self::present($slice), 201);
    }

    #[
        OA\Put(
            path: '/api/v1/layers/{layer}/slices/{slice}',
            summary: 'Change a slice wherever it is used',
            description: 'Without a name it gets one from its rule.',
            tags: ['Slices'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/SliceInput'),
            ),
            responses: [
                new OA\Response(response: 200, description: 'The slice'),
                new OA\Response(response: 409, description: 'Somebody else has changed it meanwhile'),
            ],
        ),
    ]
    public function update(Request $request, Layer $layer, int $slice): JsonResponse
    {
        $asked = $this->asked($request, $layer);
        $was = $request->json('was');
        $saved = DB::transaction(function () use ($layer, $slice, $asked, $was): Slice {
            $found = $layer->slices()->lockForUpdate()->find($slice) ?? abort(404);
            // Whoever changes it has seen what stands, where they say what they saw.
            if (is_array($was) &&
                (($was['name'] ?? null) !== $found->name || ($was['filter'] ?? null) != $found->filter)) {
                throw Overtaken::because('slice_stale', 'slice', $slice, ['name' => $found->name]);
            }
            $found->update($asked);

            return $found;
        });

        return new JsonResponse(self::present($saved));
    }

    #[
        OA\Delete(
            path: '/api/v1/layers/{layer}/slices/{slice}',
            summary: 'Delete a slice that no board uses',
            tags: ['Slices'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function destroy(Layer $layer, int $slice): Response
    {
        $found = $this->find($layer, $slice);
        $users = (new SliceBook($layer))->usersOf($found);
        if ($users !== []) {
            throw Refused::because('slice_used', 'slice', $slice, ['by' => implode(', ', $users)]);
        }
        $found->delete();

        return response()->noContent();
    }

    /** @return array{name: string, filter: array<mixed>} */
    private function asked(Request $request, Layer $layer): array
    {
        $name = trim((string) ($request->validate(['name' => ['nullable', 'string', 'max:190']])['name'] ?? ''));
        $book = new SliceBook($layer);
        $filter = $book->read($request->json('filter'));

        return ['name' => $name === '' ? $book->nameFor($filter) : $name, 'filter' => $filter->toArray()];
    }

    private function find(Layer $layer, int $slice): Slice
    {
        return $layer->slices()->find($slice) ?? abort(404);
    }

    /** @return array<string, mixed> */
    private static function present(Slice $slice): array
    {
        return ['id' => $slice->id, 'name' => $slice->name, 'filter' => $slice->filter];
    }
}

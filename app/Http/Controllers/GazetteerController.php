<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Import\PlaceTable;
use App\Layers\StoredRow;
use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use App\Records\VisibleRecords;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Import\PlaceMatch;
use PinYard\Refused;

final class GazetteerController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/places',
            summary: 'Places by name, the likeliest first',
            tags: ['Bring in'],
            parameters: [
                new OA\Parameter(name: 'q', in: 'query', required: true, schema: new OA\Schema(type: 'string')),
            ],
            responses: [new OA\Response(response: 200, description: 'Places with their likeness')],
        ),
    ]
    public function find(Request $request, Programme $programme): JsonResponse
    {
        $text = mb_substr(trim((string) $request->query('q', '')), 0, 160);

        return new JsonResponse(
            $text === ''
                ? []
                : PlaceMatch::among($text, (new PlaceTable($programme))->candidates($text), $programme->area(), 0.6)
                    ->candidates,
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/places',
            summary: 'Let the records of a layer be places that are found by name',
            tags: ['Bring in'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['layer'],
                    properties: [new OA\Property(property: 'layer', type: 'integer')],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'How many')],
        ),
    ]
    public function take(Request $request, Programme $programme): JsonResponse
    {
        $id = $request->json('layer');
        $layer = is_int($id) ? $programme->layers()->find($id) : null;
        if (! $layer instanceof Layer || $layer->design()->nameField() === null) {
            throw Refused::because($layer === null ? 'intake_layer' : 'places_no_names', 'layer');
        }
        $design = $layer->design();
        $user = SignedIn::of($request);
        $places = (static function () use ($layer, $design, $user): \Generator {
            foreach (VisibleRecords::for($user, $layer)->rows()->orderBy('id')->lazy(2_000) as $row) {
                $name = StoredRow::name($design, $row);
                if ($name !== null) {
                    yield [
                        'name' => $name,
                        'of' => $layer->title,
                        'lon' => (float) $row->lon,
                        'lat' => (float) $row->lat,
                    ];
                }
            }
        })();

        return new JsonResponse(['places' => PlaceTable::keep($places, "layer $layer->id", $programme)]);
    }
}

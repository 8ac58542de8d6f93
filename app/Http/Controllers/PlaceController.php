<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Geo\CoordinateText;
use PinYard\Refused;

final class PlaceController
{
    #[
        OA\Post(
            path: '/api/v1/places/read',
            summary: 'Read a place as people type it: decimal degrees, degrees and minutes, UTM',
            tags: ['Records'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['text'],
                    properties: [new OA\Property(property: 'text', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'Longitude and latitude, and how it was read')],
        ),
    ]
    public function __invoke(Request $request): JsonResponse
    {
        $text = $request->json('text');
        if (! is_string($text)) {
            throw Refused::because('must_be_text', 'text');
        }
        $read = CoordinateText::read($text);

        return new JsonResponse([
            'lon' => $read->position->lon,
            'lat' => $read->position->lat,
            'as' => $read->as,
            'said' => Texts::of("place.as.$read->as", [
                'lat' => sprintf('%.5f', $read->position->lat),
                'lon' => sprintf('%.5f', $read->position->lon),
            ]),
        ]);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Programme;
use App\People\SignedIn;
use App\Trails\Trails;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use OpenApi\Attributes as OA;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** Trails that crews share: taken from phones, shown to coordinators. */
final class TrailController
{
    private const MOST_DAYS = 92;

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/trails',
            summary: 'Points of my trail, as my phone kept them',
            description: 'Safe to send again. A point that is none is left out and counted.',
            tags: ['Field app'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['device', 'points'],
                    properties: [
                        new OA\Property(property: 'device', type: 'string', format: 'uuid'),
                        new OA\Property(
                            property: 'points',
                            description: '[milliseconds since 1970, longitude, latitude, accuracy in metres or null]',
                            type: 'array',
                            items: new OA\Items(type: 'array', items: new OA\Items(type: 'number', nullable: true)),
                        ),
                        new OA\Property(
                            property: 'clock_off',
                            description: 'seconds by which the phone is behind',
                            type: 'integer',
                        ),
                        new OA\Property(property: 'battery', description: 'per cent', type: 'integer', nullable: true),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'How many were taken and left out')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        $points = $request->json('points');
        if (! is_array($points) || ! array_is_list($points)) {
            throw Refused::because('must_be_list', 'points');
        }
        if (count($points) > Trails::MOST_POINTS) {
            throw Refused::because('too_many', 'points', count($points), [
                'count' => count($points),
                'most' => Trails::MOST_POINTS,
            ]);
        }
        $off = $request->json('clock_off');
        $battery = $request->json('battery');

        return new JsonResponse(
            Trails::take(
                $programme,
                SignedIn::of($request),
                RecordId::of($request->json('device'), 'device'),
                $points,
                is_int($off) && abs($off) < 315_576_000 ? $off : 0,
                is_int($battery) && $battery >= 0 && $battery <= 100 ? $battery : null,
            ),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/trails.geojson',
            summary: 'Where crews have been between two moments',
            tags: ['Collect'],
            parameters: [
                new OA\Parameter(
                    name: 'from',
                    in: 'query',
                    required: true,
                    schema: new OA\Schema(type: 'string', format: 'date-time'),
                ),
                new OA\Parameter(
                    name: 'to',
                    in: 'query',
                    required: true,
                    schema: new OA\Schema(type: 'string', format: 'date-time'),
                ),
            ],
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'A FeatureCollection of lines with the names of their walkers',
                ),
            ],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        $span = $request->validate(['from' => ['required', 'date'], 'to' => ['required', 'date', 'after:from']]);
        [$from, $to] = [Carbon::parse($span['from'])->utc(), Carbon::parse($span['to'])->utc()];
        if ($from->diffInDays($to) > self::MOST_DAYS) {
            throw Refused::because('trail_span', 'from', null, ['most' => self::MOST_DAYS]);
        }

        return new JsonResponse(Trails::lines($programme, $from, $to), 200, ['Content-Type' => 'application/geo+json']);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Outing;
use App\Models\Programme;
use App\People\SignedIn;
use App\Plan\Outings;
use App\Rights\Viewer;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;

final class OutingController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/outings',
            summary: 'Outings with their progress; a crew member gets those of the own crew',
            tags: ['Plan'],
            responses: [new OA\Response(response: 200, description: 'The outings by their days')],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        $viewer = Viewer::person(SignedIn::of($request));
        $outings = Outing::query()
            ->where('programme_id', $programme->id)
            ->with('crew')
            ->tap(static fn (Builder $q) => Outings::of($q, $programme, $viewer))
            ->orderBy('starts_on')
            ->orderBy('id')
            ->get();

        return new JsonResponse(Outings::present($programme, $outings, SignedIn::of($request)));
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/outings',
            summary: 'Plan an outing',
            tags: ['Plan'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/Outing'),
            ),
            responses: [new OA\Response(response: 201, description: 'The outing')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(
            $this->one($request, $programme, Outings::save($programme, null, $request->json()->all())),
            201,
        );
    }

    #[
        OA\Put(
            path: '/api/v1/outings/{outing}',
            summary: 'Change an outing',
            tags: ['Plan'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/Outing'),
            ),
            responses: [new OA\Response(response: 200, description: 'The outing')],
        ),
    ]
    public function update(Request $request, Outing $outing): JsonResponse
    {
        return new JsonResponse(
            $this->one(
                $request,
                $outing->programme,
                Outings::save($outing->programme, $outing, $request->json()->all()),
            ),
        );
    }

    #[
        OA\Delete(
            path: '/api/v1/outings/{outing}',
            summary: 'Drop an outing; records stay',
            tags: ['Plan'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function destroy(Outing $outing): Response
    {
        $outing->delete();

        return response()->noContent();
    }

    /** @return array<string, mixed> */
    private function one(Request $request, Programme $programme, Outing $outing): array
    {
        return Outings::present($programme, collect([$outing->load('crew')]), SignedIn::of($request))[0];
    }
}

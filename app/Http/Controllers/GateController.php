<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Documents\MergedInput;
use App\Models\Programme;
use App\Publish\GatePage;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;

/** The front door of a programme, as the desk makes it. */
final class GateController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/gate',
            summary: 'The gate of a programme',
            description: 'Before it is first saved: the one that would be made.',
            tags: ['Gates'],
            responses: [new OA\Response(response: 200, description: 'The gate, and `front`: what its visitors see')],
        ),
    ]
    public function show(Programme $programme): JsonResponse
    {
        return new JsonResponse([...GatePage::present($programme), 'front' => GatePage::front($programme)]);
    }

    #[
        OA\Patch(
            path: '/api/v1/programmes/{programme}/gate',
            summary: 'Change the gate of a programme, open or close it',
            tags: ['Gates'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/GateInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'The gate')],
        ),
    ]
    public function update(Request $request, Programme $programme): JsonResponse
    {
        DB::transaction(static function () use ($request, $programme): void {
            // The gate may not be there yet; the programme's row stands for it.
            Programme::query()->lockForUpdate()->findOrFail($programme->id);
            $parts = MergedInput::of(
                $request,
                GatePage::design($programme)->toArray(),
                ['title', 'about', 'colour', 'hung'],
            );
            GatePage::save($programme, [...$request->json()->all(), ...$parts]);
        });

        return $this->show($programme);
    }
}

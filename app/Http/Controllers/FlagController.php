<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\Audit;
use App\Flags\FlagRound;
use App\Flags\LayerFlags;
use App\Models\Layer;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Flag\FlagRules;

final class FlagController
{
    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/flags',
            summary: 'What records of a layer are flagged for, and how many are',
            tags: ['Records'],
            responses: [new OA\Response(
                response: 200,
                description: 'The rules, what they are where nobody has said any, and the flagged that wait',
            )],
        ),
    ]
    public function show(Layer $layer): JsonResponse
    {
        FlagRound::catchUp($layer);

        return self::told($layer);
    }

    #[
        OA\Put(
            path: '/api/v1/layers/{layer}/flags',
            summary: 'Say what records of a layer are flagged for',
            tags: ['Records'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['rules'],
                    properties: [new OA\Property(property: 'rules', type: 'object')],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The same as asking for them')],
        ),
    ]
    public function update(Request $request, Layer $layer): JsonResponse
    {
        LayerFlags::say($layer, $request->json('rules'));
        Audit::note($layer->programme_id, 'flags', ['layer' => $layer->title], SignedIn::of($request));
        FlagRound::catchUp($layer);

        return self::told($layer);
    }

    private static function told(Layer $layer): JsonResponse
    {
        return new JsonResponse([
            'rules' => LayerFlags::rules($layer)->toArray(),
            'usual' => FlagRules::usual($layer->design())->toArray(),
            'single_places' => FlagRules::areSinglePlaces($layer->design()),
            'areas' => LayerFlags::areasToLieIn($layer),
            'flagged' => LayerFlags::counts($layer),
        ]);
    }
}

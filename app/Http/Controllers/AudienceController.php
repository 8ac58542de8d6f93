<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use App\Publish\SeenBy;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;

/** Who sees what of a programme: its layers, and the things that show them. */
final class AudienceController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/audiences',
            summary: 'Who sees what',
            description: 'Of each layer what everyone with a link and what crews may see of it; each shown thing with '
                .'the layers of it that those who may open it are not shown.',
            tags: ['Publishing'],
            responses: [new OA\Response(response: 200, description: 'Layers and things')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        return new JsonResponse(SeenBy::of($programme));
    }

    #[
        OA\Put(
            path: '/api/v1/layers/{layer}/seen-by/link',
            summary: 'Say what everyone with a link may see of a layer',
            description: 'Records (all, those of a slice, none), their places (as they are, blurred to cells whose '
                .'sides are at least so many metres, hidden), fields and photos. It holds at once for everything '
                .'that is shared.',
            tags: ['Publishing'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/AudienceRuleInput'),
            ),
            responses: [
                new OA\Response(response: 200, description: 'The layer with its rules'),
                new OA\Response(response: 409, description: 'The rule was changed meanwhile'),
            ],
        ),
    ]
    public function link(Request $request, Layer $layer): JsonResponse
    {
        SeenBy::save($layer, $request->input('rule'), $request->input('was'));

        return new JsonResponse(SeenBy::layer($layer->refresh()));
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/blurred',
            summary: 'What becomes of one place when places are blurred',
            tags: ['Publishing'],
            parameters: [new OA\Parameter(name: 'metres', in: 'query', schema: new OA\Schema(type: 'integer'))],
            responses: [new OA\Response(response: 200, description: 'A place, its cell and the size of that')],
        ),
    ]
    public function blurred(Request $request, Layer $layer): JsonResponse
    {
        return new JsonResponse(SeenBy::blurred(SignedIn::of($request), $layer, $request->query('metres')));
    }
}

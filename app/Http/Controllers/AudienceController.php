<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use App\Publish\Audiences;
use App\Publish\PlaceTold;
use App\Publish\SeenBy;
use App\Rights\AudienceName;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;
use PinYard\Refused;

/** Who sees what of a programme: its layers, and the things that show them. */
final class AudienceController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/audiences',
            summary: 'Who sees what',
            description: 'Of each layer what each audience may see of it; each shown thing with the layers of it that '
                .'somebody whom it is shown to does not see.',
            tags: ['Publishing'],
            responses: [new OA\Response(response: 200, description: 'Layers and things')],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(SeenBy::of($programme, SignedIn::of($request)));
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/shown-to',
            summary: 'Roles, crews and groups that a map or a board can be shown to',
            tags: ['Publishing'],
            responses: [new OA\Response(response: 200, description: 'The audiences, without their people')],
        ),
    ]
    public function toShow(Programme $programme): JsonResponse
    {
        return new JsonResponse(Audiences::toShow($programme));
    }

    #[
        OA\Put(
            path: '/api/v1/programmes/{programme}/work-seen/{audience}',
            summary: 'Say whether an audience is told of all people at work',
            description: 'Trails as kilometres, hours and what was walked; crews that are out now, without names; '
                .'outings. Without it a crew is told of its own, and all others nothing.',
            tags: ['Publishing'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['what', 'told'],
                    properties: [
                        new OA\Property(property: 'what', type: 'string', enum: ['trails', 'crews', 'outings']),
                        new OA\Property(property: 'told', type: 'boolean'),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 204, description: 'So it is')],
        ),
    ]
    public function work(Request $request, Programme $programme, string $audience): Response
    {
        $of = AudienceName::named($audience, $programme) ?? abort(404);
        DB::transaction(static function () use ($request, $programme, $of): void {
            $now = Programme::query()->lockForUpdate()->findOrFail($programme->id);
            SeenBy::sayWork($now, $of, $request->json('what'), $request->json('told'));
        });

        return response()->noContent();
    }

    #[
        OA\Put(
            path: '/api/v1/layers/{layer}/seen-by/{audience}',
            summary: 'Say what an audience may see of a layer',
            description: 'Everyone with a link (link), all guests, makers or crews, one crew (crew-12), one group '
                .'(group-3). Records (all, those of a slice, their own, none), their places (as they are, blurred to '
                .'cells whose sides are at least so many metres, told by the areas of a layer, hidden), fields and '
                .'photos. It holds at once, for '
                .'everything that they can open. Who belongs to several sees what all of them together see.',
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
    public function say(Request $request, Layer $layer, string $audience): JsonResponse
    {
        $of = AudienceName::named($audience, $layer->programme)
            ?? throw Refused::because('audience_unknown', 'audience', $audience);
        if (! $request->has('rule')) {
            throw Refused::because('audience_rows', 'rows');
        }
        SeenBy::save($layer, $of, $request->input('rule'), $request->input('was'));

        return new JsonResponse(SeenBy::layer($layer->refresh(), [$of->name], SignedIn::of($request)));
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/blurred',
            summary: 'What becomes of one place when places are blurred, or told by areas',
            tags: ['Publishing'],
            parameters: [
                new OA\Parameter(name: 'metres', in: 'query', schema: new OA\Schema(type: 'integer')),
                new OA\Parameter(
                    name: 'areas',
                    in: 'query',
                    description: 'Instead of metres: the number of a layer of areas',
                    schema: new OA\Schema(type: 'integer'),
                ),
            ],
            responses: [
                new OA\Response(response: 200, description: 'A record, and around what is told of where it is'),
            ],
        ),
    ]
    public function blurred(Request $request, Layer $layer): JsonResponse
    {
        return new JsonResponse(PlaceTold::of(SignedIn::of($request), $layer, $request));
    }
}

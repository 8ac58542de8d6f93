<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Flags\LayerFlags;
use App\Models\Layer;
use App\People\SignedIn;
use App\Records\Acceptance;
use App\Rights\OpaqueId;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Refused;

final class AcceptanceController
{
    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/accepted',
            summary: 'Accept records as they are, or take that back',
            description: 'Either `records`, each with the version that was looked at, or all that a list shows '
                .'(`as_of` is what the list said; with its slice and filter). Records that became others since are '
                .'left out.',
            tags: ['Records'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['accepted'],
                    properties: [
                        new OA\Property(property: 'accepted', type: 'boolean'),
                        new OA\Property(
                            property: 'records',
                            type: 'array',
                            items: new OA\Items(properties: [
                                new OA\Property(property: 'id', type: 'string', format: 'uuid'),
                                new OA\Property(property: 'version', type: 'integer'),
                            ], type: 'object'),
                        ),
                        new OA\Property(property: 'as_of', type: 'string'),
                        new OA\Property(
                            property: 'at',
                            description: 'to take back what one accepted at that moment',
                            type: 'string',
                        ),
                        new OA\Property(property: 'slice', type: 'integer', nullable: true),
                        new OA\Property(property: 'filter', type: 'object', nullable: true),
                        new OA\Property(property: 'flag', type: 'string', nullable: true),
                    ],
                ),
            ),
            responses: [new OA\Response(
                response: 200,
                description: 'How many are so now, how many became others since, how many are left to be looked at',
            )],
        ),
    ]
    public function store(Request $request, Layer $layer): JsonResponse
    {
        $accepted = $request->json('accepted');
        if (! is_bool($accepted)) {
            throw Refused::because('accept_said', 'accepted', is_scalar($accepted) ? $accepted : null);
        }
        $acceptance = new Acceptance(SignedIn::of($request), $layer, $accepted);
        if (! $accepted && is_string($request->json('at'))) {
            return new JsonResponse($acceptance->undone($request->json('at')));
        }
        if (! $request->json()->has('as_of')) {
            return new JsonResponse($acceptance->named($request->json('records')));
        }
        $slice = $request->json('slice');
        $found = $slice === null ? null : (is_int($slice) ? $layer->slices()->find($slice) : null)
            ?? throw Refused::because('slice_unknown', 'slice', is_scalar($slice) ? $slice : null);

        $filter = $request->json('filter');
        $flag = $request->json('flag');
        if ($flag !== null && ! is_string($flag)) {
            throw Refused::because('flag_unknown', 'flag', is_scalar($flag) ? $flag : null);
        }

        return new JsonResponse($acceptance->all(
            [
                ...$found === null ? [] : [$layer->filter($found->filter)],
                ...$filter === null ? [] : [$layer->filter($filter)],
            ],
            self::known($layer, $request->json('as_of')),
            $flag === null
                ? null
                : static fn (Builder $open, Layer $of): Builder => LayerFlags::narrow($open, $of, $flag),
        ));
    }

    /** How often a layer has changed is nobody's to count. */
    public static function asOf(Layer $layer): string
    {
        return OpaqueId::of(pack('J2', 0, $layer->change_number), "list of $layer->id");
    }

    private static function known(Layer $layer, mixed $asOf): int
    {
        if (is_string($asOf)) {
            [, $zero, $number] = unpack('J2', OpaqueId::read($asOf, "list of $layer->id")) ?: [0, 1, 0];
            if ($zero === 0) {
                return (int) $number;
            }
        }
        throw Refused::because('accept_as_of', 'as_of');
    }
}

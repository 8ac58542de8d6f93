<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Conflicts\ConflictResolution;
use App\Conflicts\ConflictView;
use App\Models\Conflict;
use App\Models\Programme;
use App\People\SignedIn;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** What phones brought that a person must decide. */
final class ConflictController
{
    private const MOST = 200;

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/disputes',
            summary: 'Clashes and what is held, the oldest first',
            tags: ['Check'],
            parameters: [
                new OA\Parameter(
                    name: 'settled',
                    in: 'query',
                    description: '1 for those that are settled, the newest first',
                    schema: new OA\Schema(type: 'boolean'),
                ),
                new OA\Parameter(
                    name: 'record',
                    in: 'query',
                    description: 'only those of one record, settled or not',
                    schema: new OA\Schema(type: 'string'),
                ),
            ],
            responses: [new OA\Response(response: 200, description: 'How many are open, and up to 200 of them')],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        $layers = array_map(intval(...), $programme->layers()->pluck('id')->all());
        $record = $request->query('record');
        $query = match (true) {
            is_string($record) => Conflict::query()
                ->whereIn('layer_id', $layers)
                ->where('record_id', RecordId::of($record, 'record')->bytes())
                ->orderByDesc('id'),
            $request->boolean('settled') => Conflict::query()
                ->whereIn('layer_id', $layers)
                ->whereNotNull('settled_at')
                ->orderByDesc('settled_at'),
            default => Conflict::open($layers)->orderBy('id'),
        };

        /** @var Collection<int, Conflict> $found */
        $found = $query->with('layer.programme')->limit(self::MOST)->get();

        return new JsonResponse([
            'open' => Conflict::open($layers)->count(),
            'disputes' => ConflictView::of(SignedIn::of($request), $found),
        ]);
    }

    #[
        OA\Post(
            path: '/api/v1/disputes/{dispute}',
            summary: 'Decide one',
            description: 'A clash value by value with `choose`, something held as a whole with `take`.',
            tags: ['Check'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    properties: [
                        new OA\Property(
                            property: 'choose',
                            description: 'by key: mine (what the phone brought) or theirs',
                            type: 'object',
                        ),
                        new OA\Property(property: 'take', type: 'boolean'),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The dispute, settled')],
        ),
    ]
    public function settle(Request $request, Conflict $dispute): JsonResponse
    {
        $settling = new ConflictResolution(SignedIn::of($request));
        if ($dispute->kind === 'clash') {
            $choose = $request->json('choose');
            $settling->clash($dispute, is_array($choose) ? $choose : []);
        } else {
            $take = $request->json('take');
            if (! is_bool($take)) {
                throw Refused::because('dispute_take', 'take');
            }
            $settling->held($dispute, $take);
        }

        return new JsonResponse(ConflictView::of(SignedIn::of($request), [$dispute->refresh()])[0]);
    }
}

<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Flags\FlagRound;
use App\Flags\LayerFlags;
use App\Maps\MapFeatures;
use App\Models\Layer;
use App\People\SignedIn;
use App\Records\Acceptance;
use App\Records\RecordEdit;
use App\Records\RecordFiles;
use App\Records\RecordHistory;
use App\Records\RecordView;
use App\Records\VisibleRecords;
use App\Rights\OpaqueId;
use App\Sync\DeskEntry;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Carto\Look;
use PinYard\Geo\Box;
use PinYard\Record\RecordId;
use PinYard\Refused;

final class RecordController
{
    private const PAGE = 100;

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/records',
            summary: 'Records, newest first, a page at a time',
            tags: ['Records'],
            parameters: [
                new OA\Parameter(
                    name: 'after',
                    in: 'query',
                    description: 'what the page before called `next`',
                    schema: new OA\Schema(type: 'string'),
                ),
                new OA\Parameter(
                    name: 'page',
                    in: 'query',
                    description: 'by number, from 0; the further back, the slower',
                    schema: new OA\Schema(type: 'integer', minimum: 0),
                ),
                new OA\Parameter(ref: '#/components/parameters/bbox'),
                new OA\Parameter(ref: '#/components/parameters/filter'),
                new OA\Parameter(ref: '#/components/parameters/slice'),
                new OA\Parameter(
                    name: 'flag',
                    in: 'query',
                    description: 'those alone that are flagged: for `any` reason, or for one; for whoever may accept',
                    schema: new OA\Schema(type: 'string'),
                ),
            ],
            responses: [new OA\Response(
                response: 200,
                description: 'A page of records with the total, and where the next one begins',
            )],
        ),
    ]
    public function index(Request $request, Layer $layer): JsonResponse
    {
        $query = $this->query($request, $layer);
        $checks = SignedIn::of($request)->can('design', $layer);
        if ($checks) {
            FlagRound::catchUp($layer);
        }
        $flagged = $checks ? LayerFlags::counts($layer) : null;
        $flag = $request->query('flag');
        if (is_string($flag)) {
            LayerFlags::narrow($checks ? $query : throw Refused::because('flag_hidden', 'flag'), $layer, $flag);
        }
        $counts = (clone $query)->selectRaw('count(*) as n, coalesce(sum(accepted_at is null), 0) as waiting')->first();
        $after = $request->query('after');
        // By key: a page begins where the one before ended, whatever has come in since, and the last is as quick as the
        // first.
        is_string($after)
            ? $query->where('change_number', '<', self::number($layer, $after))
            : $query->offset(max(0, $request->integer('page')) * self::PAGE);
        $rows = $query->orderByDesc('change_number')->limit(self::PAGE)->get();

        return new JsonResponse([
            'total' => (int) ($counts->n ?? 0),
            'page_size' => self::PAGE,
            // Who may accept what came in is told how much waits for it.
            ...$checks
                ? [
                    'flagged' => $flagged,
                    'to_check' => array_intersect(
                        array_keys($request->query()),
                        ['bbox', 'filter', 'slice', 'flag'],
                    ) === []
                        ? (int) ($counts->waiting ?? 0)
                        : Acceptance::left(SignedIn::of($request), $layer),
                    'as_of' => AcceptanceController::asOf($layer),
                ]
                : [],
            'next' => $rows->count() < self::PAGE || ($last = $rows->last()) === null
                ? null
                : OpaqueId::of(pack('J2', 0, $last->change_number), "pages of $layer->id"),
            'records' => self::told($request, $layer, $rows, ($flagged['all'] ?? 0) > 0),
        ]);
    }

    /**
     * Whoever may accept them is told what speaks against it.
     *
     * @param  iterable<\stdClass>  $rows
     * @param  bool  $some  whether anything speaks against any record of the layer
     * @return list<array<string, mixed>>
     */
    private static function told(Request $request, Layer $layer, iterable $rows, bool $some = true): array
    {
        $viewer = SignedIn::of($request);
        $records = RecordView::present($layer, $layer->design(), $rows, $viewer);

        return $viewer->can('design', $layer) ? LayerFlags::beside($layer, $records, $viewer, $some) : $records;
    }

    /** How often a layer has changed is nobody's to count, so pages are named by something that tells it to nobody. */
    private static function number(Layer $layer, string $after): int
    {
        [, $zero, $number] = unpack('J2', OpaqueId::read($after, "pages of $layer->id")) ?: [0, 1, 0];

        return $zero === 0 ? (int) $number : throw Refused::because('page_unknown', 'after');
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/records.geojson',
            summary: 'Records as GeoJSON (RFC 7946), with their names and classes',
            tags: ['Records'],
            parameters: [
                new OA\Parameter(ref: '#/components/parameters/bbox'),
                new OA\Parameter(ref: '#/components/parameters/filter'),
                new OA\Parameter(ref: '#/components/parameters/slice'),
            ],
            responses: [new OA\Response(response: 200, description: 'A FeatureCollection')],
        ),
    ]
    public function geoJson(Request $request, Layer $layer): JsonResponse
    {
        $look = Look::suggest($layer->design());
        $told = array_filter([...$look->fields(), $layer->design()->nameField()?->key], is_string(...));

        return new JsonResponse(
            MapFeatures::features(
                $this->visible($request, $layer)->showing(array_values($told)),
                $look,
                self::box($request),
            ),
            200,
            ['Content-Type' => 'application/geo+json'],
        );
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/records/{record}',
            summary: 'One record',
            tags: ['Records'],
            responses: [new OA\Response(response: 200, description: 'The record')],
        ),
    ]
    public function show(Request $request, Layer $layer, string $record): JsonResponse
    {
        $row = $this->query($request, $layer)->where('id', self::id($record))->first() ?? abort(404);

        return new JsonResponse(self::told($request, $layer, [$row])[0]);
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/records',
            summary: 'Add a record at the desk; no fix is needed',
            tags: ['Records'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['values', 'geometry'],
                    properties: [
                        new OA\Property(property: 'values', type: 'object'),
                        new OA\Property(
                            property: 'geometry',
                            description: 'a GeoJSON Point, LineString or Polygon, as the layer has it',
                            type: 'object',
                        ),
                        new OA\Property(
                            property: 'altitude',
                            description: 'metres, where the layer keeps it',
                            type: 'number',
                            nullable: true,
                        ),
                        new OA\Property(
                            property: 'visited',
                            description: 'in a layer of visits: the record that was visited',
                            type: 'string',
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The record')],
        ),
    ]
    public function store(Request $request, Layer $layer): JsonResponse
    {
        $record = (new DeskEntry(SignedIn::of($request), $layer))->add(
            $request->json('values', []),
            $request->json('geometry'),
            $request->json('altitude'),
            $request->json('visited'),
            $request->json('photos', []),
        );

        return new JsonResponse($record, 201);
    }

    #[
        OA\Patch(
            path: '/api/v1/layers/{layer}/records/{record}',
            summary: 'Change values or place of a record',
            description: 'Only what was changed is sent, with the version that it began from; what others changed '
                .'meanwhile is kept.',
            tags: ['Records'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['base'],
                    properties: [
                        new OA\Property(property: 'base', type: 'integer'),
                        new OA\Property(property: 'values', type: 'object'),
                        new OA\Property(property: 'geometry', type: 'object', nullable: true),
                        new OA\Property(property: 'altitude', type: 'number', nullable: true),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The record')],
        ),
    ]
    public function update(Request $request, Layer $layer, string $record): JsonResponse
    {
        $base = $request->json('base');
        $values = $request->json('values', []);
        if (! is_int($base) || $base < 1) {
            throw Refused::because('op_number', 'base');
        }
        if (! is_array($values)) {
            throw Refused::because('op_values', 'values');
        }

        return new JsonResponse(
            (new RecordEdit(SignedIn::of($request), $layer->id))->change(
                $record,
                $base,
                $values,
                $request->json('geometry'),
                $request->json()->has('altitude') ? [$request->json('altitude')] : null,
            ),
        );
    }

    #[
        OA\Delete(
            path: '/api/v1/layers/{layer}/records/{record}',
            summary: 'Delete a record; it can be restored',
            tags: ['Records'],
            parameters: [
                new OA\Parameter(
                    name: 'visits',
                    in: 'query',
                    description: 'How many visits to it one knows of; if there are more by now, it is refused',
                    schema: new OA\Schema(type: 'integer'),
                ),
            ],
            responses: [new OA\Response(response: 204, description: 'Deleted')],
        ),
    ]
    public function destroy(Request $request, Layer $layer, string $record): Response
    {
        $visits = $request->query('visits');
        (new RecordEdit(SignedIn::of($request), $layer->id))->delete(
            $record,
            is_string($visits) && ctype_digit($visits) ? (int) $visits : null,
        );

        return response()->noContent();
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/records/{record}/restore',
            summary: 'Bring back a deleted record, or take up an earlier version',
            tags: ['Records'],
            requestBody: new OA\RequestBody(
                content: new OA\JsonContent(
                    properties: [new OA\Property(property: 'version', type: 'integer', nullable: true)],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The record')],
        ),
    ]
    public function restore(Request $request, Layer $layer, string $record): JsonResponse
    {
        $version = $request->json('version');

        return new JsonResponse(
            (new RecordEdit(SignedIn::of($request), $layer->id))->restore($record, is_int($version) ? $version : null),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/records/{record}/history',
            summary: 'Every version of a record, newest first',
            tags: ['Records'],
            responses: [new OA\Response(response: 200, description: 'The versions')],
        ),
    ]
    public function history(Request $request, Layer $layer, string $record): JsonResponse
    {
        // A deleted record still has a history, for those who could see it.
        $row = VisibleRecords::for(SignedIn::of($request), $layer)->withDeleted()
            ->where('id', self::id($record))->first() ?? abort(404);

        // What a record was tells all that it is, so whoever is shown a part of it is told nothing of that.
        return new JsonResponse($row->seen_whole ?? true ? RecordHistory::of($layer, RecordId::of($record)) : []);
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/records/{record}/files',
            summary: 'Announce files that join a record; their bytes come as uploads',
            tags: ['Records'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['files'],
                    properties: [
                        new OA\Property(property: 'files', type: 'array', items: new OA\Items(type: 'object')),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The record')],
        ),
    ]
    public function files(Request $request, Layer $layer, string $record): JsonResponse
    {
        $files = $request->json('files');
        if (! is_array($files) || ! array_is_list($files) || $files === []) {
            throw Refused::because('must_be_list', 'files');
        }

        return new JsonResponse((new RecordFiles(SignedIn::of($request)))->announce($layer->id, $record, $files), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/records/{record}/visits',
            summary: 'Visits to a record, newest first',
            tags: ['Records'],
            responses: [new OA\Response(response: 200, description: 'The layer of visits, and its records')],
        ),
    ]
    public function visits(Request $request, Layer $layer, string $record): JsonResponse
    {
        $id = self::id($record);
        VisibleRecords::for(SignedIn::of($request), $layer)->has($id) || abort(404);
        $visits = $layer->visitsLayer;
        if ($visits === null) {
            return new JsonResponse(['layer' => null, 'records' => []]);
        }
        $rows = VisibleRecords::for(SignedIn::of($request), $visits)
            ->rows()
            ->where('parent', $id)
            ->orderByDesc('collected_at')
            ->limit(500)
            ->get();

        return new JsonResponse([
            'layer' => $visits->id,
            'records' => RecordView::present($visits, $visits->design(), $rows, SignedIn::of($request)),
        ]);
    }

    private function query(Request $request, Layer $layer): Builder
    {
        $visible = $this->visible($request, $layer);
        $box = self::box($request);

        return $box === null ? $visible->rows() : $visible->within($visible->rows(), $box);
    }

    private function visible(Request $request, Layer $layer): VisibleRecords
    {
        $visible = VisibleRecords::for(SignedIn::of($request), $layer);
        $filter = $request->query('filter');
        $slice = $request->query('slice');
        if (is_string($slice)) {
            $found = ctype_digit($slice) ? $layer->slices()->find($slice) : null;
            $visible = $visible->filtered(
                $layer->filter(($found ?? throw Refused::because('slice_unknown', 'slice', $slice))->filter),
            );
        }

        return is_string($filter) ? $visible->asked($layer->filter(json_decode($filter, true))) : $visible;
    }

    private static function box(Request $request): ?Box
    {
        return is_string($request->query('bbox')) ? Box::fromText($request->query('bbox')) : null;
    }

    private static function id(string $text): string
    {
        try {
            return RecordId::of($text)->bytes();
        } catch (Refused) {
            abort(404);
        }
    }
}

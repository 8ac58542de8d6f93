<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Records\DeskEntry;
use App\Records\RecordEdit;
use App\Records\RecordFiles;
use App\Records\RecordHistory;
use App\Storage\FilterSql;
use App\Storage\MapFeatures;
use App\Storage\Records;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Board\Filter;
use PinYard\Carto\Look;
use PinYard\Design\GeometryKind;
use PinYard\Geo\Box;
use PinYard\Record\RecordId;
use PinYard\Refused;

final class RecordController
{
    private const PAGE = 100;

    #[OA\Get(path: '/api/v1/layers/{layer}/records', summary: 'Records, newest first, a page at a time', tags: ['Records'], parameters: [
        new OA\Parameter(name: 'page', in: 'query', schema: new OA\Schema(type: 'integer', minimum: 0)), new OA\Parameter(ref: '#/components/parameters/bbox'), new OA\Parameter(ref: '#/components/parameters/filter'),
    ], responses: [new OA\Response(response: 200, description: 'A page of records with the total')])]
    public function index(Request $request, Layer $layer): JsonResponse
    {
        $page = max(0, $request->integer('page'));
        $query = $this->query($request, $layer);

        return new JsonResponse([
            'total' => (clone $query)->count(),
            'page_size' => self::PAGE,
            'records' => Records::present($layer, $layer->design(), $query->orderByDesc('change_number')->offset($page * self::PAGE)->limit(self::PAGE)->get()),
        ]);
    }

    #[OA\Get(path: '/api/v1/layers/{layer}/records.geojson', summary: 'Records as GeoJSON (RFC 7946), with their names and classes', tags: ['Records'], parameters: [
        new OA\Parameter(ref: '#/components/parameters/bbox'), new OA\Parameter(ref: '#/components/parameters/filter'),
    ], responses: [new OA\Response(response: 200, description: 'A FeatureCollection')])]
    public function geoJson(Request $request, Layer $layer): JsonResponse
    {
        $design = $layer->design();

        return new JsonResponse(MapFeatures::features($this->query($request, $layer), $design, Look::suggest($design)), 200, ['Content-Type' => 'application/geo+json']);
    }

    #[OA\Get(path: '/api/v1/layers/{layer}/records/{record}', summary: 'One record', tags: ['Records'], responses: [new OA\Response(response: 200, description: 'The record')])]
    public function show(Request $request, Layer $layer, string $record): JsonResponse
    {
        $row = $this->query($request, $layer)->where('id', self::id($record))->first() ?? abort(404);

        return new JsonResponse(Records::present($layer, $layer->design(), [$row])[0]);
    }

    #[OA\Post(path: '/api/v1/layers/{layer}/records', summary: 'Add a record at the desk; no fix is needed', tags: ['Records'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['values', 'geometry'], properties: [
        new OA\Property(property: 'values', type: 'object'), new OA\Property(property: 'geometry', description: 'a GeoJSON Point, LineString or Polygon, as the layer has it', type: 'object'),
        new OA\Property(property: 'altitude', description: 'metres, where the layer keeps it', type: 'number', nullable: true), new OA\Property(property: 'visited', description: 'in a layer of visits: the record that was visited', type: 'string', nullable: true),
    ])), responses: [new OA\Response(response: 201, description: 'The record')])]
    public function store(Request $request, Layer $layer): JsonResponse
    {
        $record = (new DeskEntry($request->user(), $layer))->add($request->json('values', []), $request->json('geometry'), $request->json('altitude'), $request->json('visited'), $request->json('photos', []));

        return new JsonResponse($record, 201);
    }

    #[OA\Patch(path: '/api/v1/layers/{layer}/records/{record}', summary: 'Change values or place of a record', description: 'Only what was changed is sent, with the version that it began from; what others changed meanwhile is kept.', tags: ['Records'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['base'], properties: [
        new OA\Property(property: 'base', type: 'integer'), new OA\Property(property: 'values', type: 'object'), new OA\Property(property: 'geometry', type: 'object', nullable: true), new OA\Property(property: 'altitude', type: 'number', nullable: true),
    ])), responses: [new OA\Response(response: 200, description: 'The record')])]
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

        return new JsonResponse((new RecordEdit($request->user(), $layer->id))->change($record, $base, $values, $request->json('geometry'), $request->json()->has('altitude') ? [$request->json('altitude')] : null));
    }

    #[OA\Delete(path: '/api/v1/layers/{layer}/records/{record}', summary: 'Delete a record; it can be restored', tags: ['Records'], responses: [new OA\Response(response: 204, description: 'Deleted')])]
    public function destroy(Request $request, Layer $layer, string $record): Response
    {
        (new RecordEdit($request->user(), $layer->id))->delete($record);

        return response()->noContent();
    }

    #[OA\Post(path: '/api/v1/layers/{layer}/records/{record}/restore', summary: 'Bring back a deleted record, or take up an earlier version', tags: ['Records'], requestBody: new OA\RequestBody(content: new OA\JsonContent(properties: [
        new OA\Property(property: 'version', type: 'integer', nullable: true),
    ])), responses: [new OA\Response(response: 200, description: 'The record')])]
    public function restore(Request $request, Layer $layer, string $record): JsonResponse
    {
        $version = $request->json('version');

        return new JsonResponse((new RecordEdit($request->user(), $layer->id))->restore($record, is_int($version) ? $version : null));
    }

    #[OA\Get(path: '/api/v1/layers/{layer}/records/{record}/history', summary: 'Every version of a record, newest first', tags: ['Records'], responses: [new OA\Response(response: 200, description: 'The versions')])]
    public function history(Request $request, Layer $layer, string $record): JsonResponse
    {
        // A deleted record still has a history, for those who could see it.
        Records::withDeletedSeenBy($request->user(), $layer)->where('id', self::id($record))->exists() || abort(404);

        return new JsonResponse(RecordHistory::of($layer, RecordId::of($record)));
    }

    #[OA\Post(path: '/api/v1/layers/{layer}/records/{record}/files', summary: 'Announce files that join a record; their bytes come as uploads', tags: ['Records'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['files'], properties: [
        new OA\Property(property: 'files', type: 'array', items: new OA\Items(type: 'object')),
    ])), responses: [new OA\Response(response: 201, description: 'The record')])]
    public function files(Request $request, Layer $layer, string $record): JsonResponse
    {
        $files = $request->json('files');
        if (! is_array($files) || ! array_is_list($files) || $files === []) {
            throw Refused::because('must_be_list', 'files');
        }

        return new JsonResponse((new RecordFiles($request->user()))->announce($layer->id, $record, $files), 201);
    }

    #[OA\Get(path: '/api/v1/layers/{layer}/records/{record}/visits', summary: 'Visits to a record, newest first', tags: ['Records'], responses: [new OA\Response(response: 200, description: 'The layer of visits, and its records')])]
    public function visits(Request $request, Layer $layer, string $record): JsonResponse
    {
        $id = self::id($record);
        Records::seenBy($request->user(), $layer)->where('id', $id)->exists() || abort(404);
        $visits = $layer->visitsLayer;
        if ($visits === null) {
            return new JsonResponse(['layer' => null, 'records' => []]);
        }
        $rows = Records::seenBy($request->user(), $visits)->where('parent', $id)->orderByDesc('collected_at')->limit(500)->get();

        return new JsonResponse(['layer' => $visits->id, 'records' => Records::present($visits, $visits->design(), $rows)]);
    }

    private function query(Request $request, Layer $layer): Builder
    {
        $query = Records::seenBy($request->user(), $layer);
        if (is_string($request->query('bbox'))) {
            Records::within($query, Box::fromText($request->query('bbox')), $layer->has_shapes ? $layer->design()->geometry : GeometryKind::Point);
        }
        if (is_string($request->query('filter'))) {
            $design = $layer->design();
            $filter = Filter::read(json_decode($request->query('filter'), true), $design);
            (new FilterSql($design, new \DateTimeZone($layer->programme->time_zone)))->apply($query, $filter);
        }

        return $query;
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

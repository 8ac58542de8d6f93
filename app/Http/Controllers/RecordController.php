<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Storage\FilterSql;
use App\Storage\MapFeatures;
use App\Storage\Records;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Board\Filter;
use PinYard\Carto\Look;
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

    private function query(Request $request, Layer $layer): Builder
    {
        $query = Records::seenBy($request->user(), $layer);
        if (is_string($request->query('bbox'))) {
            Records::within($query, Box::fromText($request->query('bbox')));
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

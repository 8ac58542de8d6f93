<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use App\Models\Programme;
use Illuminate\Database\Query\Builder;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Lambert;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Geo\Wkt;
use PinYard\Record\RecordId;

/** Asks for records by where they are; the index of places first, then exactly. */
final class PlaceSql
{
    /** Degrees of latitude that a metre has at most, with something to spare. */
    private const DEGREES = 1 / 110_000;

    /** An area of a layer in this programme, if it is still there. */
    public static function areaOf(Programme $programme, int $layer, string $record): ?Shape
    {
        $areas = Layer::areasOf($programme)->firstWhere('id', $layer);
        $row = $areas === null
            ? null
            : LayerRows::live($areas)->where('id', RecordId::of($record)->bytes())->first(['shape']);
        $shape = $row === null ? null : Wkb::fromColumn($row->shape);

        return $shape?->kind === GeometryKind::Area ? $shape : null;
    }

    /** Edges are straight in longitude and latitude, as maps draw them ({@see \PinYard\Geo\PointInArea}). */
    public static function inside(Builder $query, string $table, Shape $area): Builder
    {
        $geometry = $area->toGeoJson();
        // Along each ring, so that the antimeridian is no border: longitudes may then go beyond 180.
        [$west, $south, $east, $north] = [INF, INF, -INF, -INF];
        $first = null;
        $along = static function (array $ring) use (&$first, &$west, &$south, &$east, &$north): array {
            $before = $first ??= (float) $ring[0][0];
            $out = [];
            foreach ($ring as [$lon, $lat]) {
                $before += fmod($lon - $before + 900, 360) - 180;
                $out[] = [$before, $lat];
                [$west, $east] = [min($west, $before), max($east, $before)];
                [$south, $north] = [min($south, $lat), max($north, $lat)];
            }

            return $out;
        };
        /** @var list<list<list<array{float, float}>>> $polygons */
        $polygons = $geometry['type'] === 'Polygon' ? [$geometry['coordinates']] : $geometry['coordinates'];
        $text = Wkt::of([
            'type' => 'MultiPolygon',
            'coordinates' => array_map(static fn (array $rings): array => array_map($along, $rings), $polygons),
        ]);
        $lon = match (true) {
            $east > 180 => "if($table.lon < $west, $table.lon + 360, $table.lon)",
            $west < -180 => "if($table.lon > $east, $table.lon - 360, $table.lon)",
            default => "$table.lon",
        };
        if ($east - $west < 360 && $south < $north) {
            $turn = static fn (float $l): float => $l > 180 ? $l - 360 : ($l < -180 ? $l + 360 : $l);
            LayerRows::within($query, Box::of($turn($west), $south, $turn($east), $north));
        }

        return $query->whereRaw("st_contains(st_geomfromtext(?), point($lon, $table.lat))", [$text]);
    }

    /**
     * Within so many metres of a place. The distance is reckoned flat, with the ellipsoid's radii of curvature at that
     * place (Snyder, Map Projections, 1987, equations 4-18 and 4-20, from memory) and the middle latitude's cosine; up
     * to 100 km it is good to a part in a thousand as far as latitude 80.
     */
    public static function around(Builder $query, string $table, float $lon, float $lat, float $metres): Builder
    {
        $e2 = Lambert::FLATTENING * (2 - Lambert::FLATTENING);
        $w2 = 1 - $e2 * sin(deg2rad($lat)) ** 2;
        $across = deg2rad(1) * Lambert::RADIUS / sqrt($w2);
        $up = $across * (1 - $e2) / $w2;
        $tall = $metres * self::DEGREES;
        [$south, $north] = [max(-90.0, $lat - $tall), min(90.0, $lat + $tall)];
        $narrowest = cos(deg2rad(min(89.9, max(abs($south), abs($north)))));
        $wide = $tall / $narrowest;
        if ($wide < 90) {
            $turn = static fn (float $l): float => $l > 180 ? $l - 360 : ($l < -180 ? $l + 360 : $l);
            LayerRows::within($query, Box::of($turn($lon - $wide), $south, $turn($lon + $wide), $north));
        }
        $east = "(mod($table.lon - ? + 540, 360) - 180)";

        return $query->whereRaw(
            "pow(($table.lat - ?) * ?, 2) + pow($east * ? * cos(radians(($table.lat + ?) / 2)), 2) <= ?",
            [$lat, $up, $lon, $across, $lat, $metres ** 2],
        );
    }
}

<?php

declare(strict_types=1);

namespace App\Layers;

use PinYard\Audience\Sharpness;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;
use stdClass;

/** What a layer's table keeps of where a record is. */
final class PlaceColumns
{
    /**
     * @param  bool  $shapes  whether the table has a column for lines and areas
     * @return array<string, mixed>
     */
    public static function of(Shape $shape, bool $shapes): array
    {
        $place = ['lon' => $shape->place->lon, 'lat' => $shape->place->lat, 'z' => ZOrder::of($shape->place)];

        return $shapes
            ? $place + ['shape' => Wkb::column($shape), 'length_m' => $shape->length, 'area_m2' => $shape->area]
            : $place;
    }

    /**
     * What a row of a layer of lines or areas is drawn as: its shape, or the cells that are told of it; its place where
     * there is neither.
     *
     * @return array{type: string, coordinates: list<mixed>}
     */
    public static function geoJson(stdClass $row, GeometryKind $kind, int $decimals = 7): array
    {
        return self::drawn($row, $kind, $decimals)
            ?? ['type' => 'Point', 'coordinates' => [$row->lon, $row->lat]];
    }

    /**
     * The same without its place.
     *
     * @return array{type: string, coordinates: list<mixed>}|null
     */
    public static function drawn(stdClass $row, GeometryKind $kind, int $decimals = 7): ?array
    {
        // Cells are areas, whatever the layer holds.
        return Wkb::geoJson(
            $row->shape ?? null,
            ($row->seen_place ?? null) === Sharpness::Cell->value ? GeometryKind::Area : $kind,
            $decimals,
        );
    }

    /** The shape of a row; its place where it has not been drawn as what the layer holds today. */
    public static function shape(stdClass $row, GeometryKind $kind): Shape
    {
        $shape = $kind === GeometryKind::Point ? null : Wkb::fromColumn($row->shape ?? null);

        return $shape !== null && $shape->kind === $kind
            ? $shape
            : Shape::point(Position::of((float) $row->lon, (float) $row->lat));
    }
}

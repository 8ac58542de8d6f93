<?php

declare(strict_types=1);

namespace PinYard\Geo;

/** What the records of a layer are on the ground. */
enum GeometryKind: string
{
    case Point = 'point';
    case Line = 'line';
    case Area = 'area';

    /** The type of its GeoJSON geometries (RFC 7946). */
    public function geoJson(): string
    {
        return match ($this) {
            self::Point => 'Point',
            self::Line => 'LineString',
            self::Area => 'Polygon',
        };
    }
}

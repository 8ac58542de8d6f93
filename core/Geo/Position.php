<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Refused;

/** A place on WGS 84: longitude and latitude in degrees. */
final readonly class Position
{
    private function __construct(public float $lon, public float $lat)
    {
    }

    /** @throws Refused when a number is missing or outside the world */
    public static function of(mixed $lon, mixed $lat): self
    {
        if (
            (! is_int($lon) && ! is_float($lon)) ||
            (! is_int($lat) && ! is_float($lat)) ||
            ! is_finite((float) $lon) ||
            ! is_finite((float) $lat)
        ) {
            throw Refused::because('position_no_numbers', 'geometry');
        }
        if ($lon < -180 || $lon > 180 || $lat < -90 || $lat > 90) {
            throw Refused::because('position_outside_world', 'geometry', "$lon, $lat", [
                'lon' => (float) $lon,
                'lat' => (float) $lat,
            ]);
        }

        return new self((float) $lon, (float) $lat);
    }

    /**
     * Reads a GeoJSON Point (RFC 7946, section 3.1.2); a third number (altitude) is allowed and left aside.
     *
     * @throws Refused
     */
    public static function fromGeoJson(mixed $geometry): self
    {
        if (
            ! is_array($geometry) ||
            ($geometry['type'] ?? null) !== 'Point' ||
            ! is_array($geometry['coordinates'] ?? null)
        ) {
            throw Refused::because(
                'position_no_point',
                'geometry',
                is_array($geometry) ? $geometry['type'] ?? null : $geometry,
            );
        }

        return self::of($geometry['coordinates'][0] ?? null, $geometry['coordinates'][1] ?? null);
    }
}

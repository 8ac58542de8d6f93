<?php

declare(strict_types=1);

namespace PinYard\Export;

/** Writes features as GeoJSON (RFC 7946). */
final class GeoJson
{
    /** Seven decimals are about a centimetre; RFC 7946, section 11.2 asks for no more than sensible. */
    public const DECIMALS = 7;

    /**
     * @param  array<string, mixed>  $properties
     * @return array{type: 'Feature', id: string, geometry: array{type: string, coordinates: list<mixed>},
     *     properties: array<string, mixed>|\stdClass}
     */
    public static function point(string $id, float $lon, float $lat, array $properties): array
    {
        return self::feature(
            $id,
            ['type' => 'Point', 'coordinates' => [round($lon, self::DECIMALS), round($lat, self::DECIMALS)]],
            $properties,
        );
    }

    /**
     * @param  array{type: string, coordinates: list<mixed>}  $geometry
     * @param  array<string, mixed>  $properties
     * @return array{type: 'Feature', id: string, geometry: array{type: string, coordinates: list<mixed>},
     *     properties: array<string, mixed>|\stdClass}
     */
    public static function feature(string $id, array $geometry, array $properties): array
    {
        return [
            'type' => 'Feature',
            'id' => $id,
            'geometry' => $geometry,
            'properties' => $properties === [] ? new \stdClass : $properties,
        ];
    }

    /**
     * @param  list<array<string, mixed>>  $features
     * @return array<string, mixed>
     */
    public static function collection(array $features): array
    {
        return ['type' => 'FeatureCollection', 'features' => $features];
    }
}

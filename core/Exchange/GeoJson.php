<?php

declare(strict_types=1);

namespace PinYard\Exchange;

/** Writes features of points as GeoJSON (RFC 7946). */
final class GeoJson
{
    /** Seven decimals are about a centimetre; RFC 7946, section 11.2 asks for no more than sensible. */
    private const DECIMALS = 7;

    /**
     * @param  array<string, mixed>  $properties
     * @return array{type: 'Feature', id: string, geometry: array{type: 'Point', coordinates: array{float, float}}, properties: array<string, mixed>|\stdClass}
     */
    public static function point(string $id, float $lon, float $lat, array $properties): array
    {
        return [
            'type' => 'Feature',
            'id' => $id,
            'geometry' => ['type' => 'Point', 'coordinates' => [round($lon, self::DECIMALS), round($lat, self::DECIMALS)]],
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

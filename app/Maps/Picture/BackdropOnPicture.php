<?php

declare(strict_types=1);

namespace App\Maps\Picture;

use App\Backdrops;
use PinYard\Geo\Box;

/** The backdrops that ship, drawn as far as a small picture shows them: lands, waters, coasts. */
final class BackdropOnPicture
{
    private const SEA = '#CFDDDD';

    public static function draw(Canvas $canvas, Box $extent): void
    {
        $canvas->background(self::SEA);
        $told = array_column(Backdrops::for($extent), 'key');
        foreach (Backdrops::styles() as $backdrop) {
            if (! in_array($backdrop['key'], $told, true)) {
                continue;
            }
            $features = self::features($backdrop['key']);
            foreach ($backdrop['layers'] as $layer) {
                $kind = $layer['filter'][2] ?? null;
                // What is only seen from near is too small here.
                if (! isset($layer['minzoom']) && is_string($kind)) {
                    foreach ($features[$kind] ?? [] as $geometry) {
                        self::geometry($canvas, $geometry, $layer);
                    }
                }
            }
        }
    }

    /**
     * @param  array<string, mixed>  $geometry
     * @param  array<string, mixed>  $layer
     */
    private static function geometry(Canvas $canvas, array $geometry, array $layer): void
    {
        $paint = $layer['paint'] ?? [];
        $parts = match ($geometry['type']) {
            'Polygon' => [$geometry['coordinates']],
            'MultiPolygon' => $geometry['coordinates'],
            'LineString' => [[$geometry['coordinates']]],
            'MultiLineString' => array_map(static fn (array $l): array => [$l], $geometry['coordinates']),
            default => [],
        };
        foreach ($parts as $rings) {
            if ($layer['type'] === 'fill') {
                $canvas->area($rings, $paint['fill-color'], 1, self::SEA);
            } else {
                $width = $paint['line-width'] ?? 1;
                foreach ($rings as $ring) {
                    $canvas->line($ring, $paint['line-color'], is_array($width) ? 1 : $width);
                }
            }
        }
    }

    /** @return array<string, list<array<string, mixed>>> geometries by kind */
    private static function features(string $key): array
    {
        $file = json_decode((string) @file_get_contents(public_path("backdrop/$key.json")), true);
        $kinds = [];
        foreach (is_array($file) ? $file['features'] ?? [] : [] as $feature) {
            $kinds[$feature['properties']['kind']][] = $feature['geometry'];
        }

        return $kinds;
    }
}

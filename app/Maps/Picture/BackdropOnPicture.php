<?php

declare(strict_types=1);

namespace App\Maps\Picture;

use App\Backdrops;
use PinYard\Geo\Box;

/** Backdrops, drawn as far as a small picture shows them: lands, waters, coasts. */
final class BackdropOnPicture
{
    private const SEA = '#CFDDDD';

    /** Read whole they take twenty times as much memory. */
    private const MOST_BYTES = 4 << 20;

    public static function draw(Canvas $canvas, Box $extent): void
    {
        $canvas->background(self::SEA);
        foreach (Backdrops::for($extent) as $backdrop) {
            if ($backdrop['bytes'] > self::MOST_BYTES) {
                continue;
            }
            $features = Backdrops::features($backdrop['key']);
            foreach ($backdrop['style']['layers'] as $layer) {
                // What is only seen from near is too small here.
                if (! isset($layer['minzoom'])) {
                    foreach (self::drawnBy($layer, $features) as $feature) {
                        self::geometry($canvas, $feature['geometry'], $layer);
                    }
                }
            }
        }
    }

    /**
     * Of what a layer can ask for, only that a property is something; layers that ask for more are left out.
     *
     * @param  array<string, mixed>  $layer
     * @param  list<array{properties: array<string, mixed>, geometry: array<string, mixed>}>  $features
     * @return list<array{properties: array<string, mixed>, geometry: array<string, mixed>}>
     */
    private static function drawnBy(array $layer, array $features): array
    {
        $filter = $layer['filter'] ?? null;
        if ($filter === null) {
            return $features;
        }
        $key = $filter[1][1] ?? null;
        if (($filter[0] ?? null) !== '==' || ($filter[1][0] ?? null) !== 'get' || ! is_string($key)) {
            return [];
        }

        return array_values(array_filter(
            $features,
            static fn (array $f): bool => ($f['properties'][$key] ?? null) === ($filter[2] ?? null),
        ));
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
            // A colour that is worked out is none here, nor is one by its name.
            $colour = $paint["{$layer['type']}-color"] ?? null;
            if (! is_string($colour) || preg_match('/^#[0-9a-f]{6}$/iD', $colour) !== 1) {
                continue;
            }
            if ($layer['type'] === 'fill') {
                $canvas->area($rings, $colour, 1, self::SEA);
            } elseif ($layer['type'] === 'line') {
                $width = $paint['line-width'] ?? 1;
                foreach ($rings as $ring) {
                    $canvas->line($ring, $colour, is_array($width) ? 1 : $width);
                }
            }
        }
    }
}

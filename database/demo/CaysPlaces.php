<?php

declare(strict_types=1);

namespace Demo;

use App\Import\PlaceTable;
use App\Models\Programme;

/**
 * Places of the Halcyon Cays by name: villages, isles and waters of the backdrop, beaches, and the houses of the three
 * villages.
 */
final class CaysPlaces
{
    private const STREETS = ['Quay Steps', 'Long Sound Road', 'Lamp Row', 'Saltworks Lane'];

    public static function fill(Programme $programme): int
    {
        return PlaceTable::keep(self::places(), 'demo', $programme);
    }

    /** @return \Generator<array{name: string, of: string, lon: float, lat: float}> */
    private static function places(): \Generator
    {
        $cays = json_decode((string) file_get_contents(public_path('backdrop/cays.json')), true);
        foreach ($cays['features'] as $feature) {
            ['kind' => $kind, 'name' => $name] = $feature['properties'] + ['kind' => '', 'name' => null];
            if ($name === null || $feature['geometry']['type'] !== 'Point') {
                continue;
            }
            [$lon, $lat] = $feature['geometry']['coordinates'];
            yield ['name' => $name, 'of' => 'Halcyon Cays', 'lon' => $lon, 'lat' => $lat];
            if ($kind !== 'village') {
                continue;
            }
            foreach (self::STREETS as $i => $street) {
                foreach (range(1, 24) as $house) {
                    // Houses along four short streets that leave the middle of the village.
                    $away = 0.0004 + $house * 0.00012;
                    yield [
                        'name' => "$street $house",
                        'of' => "$name, Halcyon Cays",
                        'lon' => round($lon + $away * cos(1.1 + ($i * M_PI) / 2), 6),
                        'lat' => round($lat + $away * sin(1.1 + ($i * M_PI) / 2), 6),
                    ];
                }
            }
        }
        foreach (json_decode((string) file_get_contents(__DIR__.'/cays/beaches.json'), true) as $beach) {
            [$lon, $lat] = $beach['points'][intdiv(count($beach['points']), 2)];
            yield [
                'name' => $beach['name'].' beach',
                'of' => $beach['isle'].', Halcyon Cays',
                'lon' => $lon,
                'lat' => $lat,
            ];
        }
    }
}

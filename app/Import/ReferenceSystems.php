<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use PinYard\Geo\Box;
use PinYard\Geo\Position;
use PinYard\Import\ImportSettings;
use PinYard\Import\PairReader;
use PinYard\Problem;

/** Reference systems that a file's coordinates may be in, each with where the points would fall. */
final class ReferenceSystems
{
    private const SAMPLE = 40;

    /**
     * Grids that national mapping agencies give their data in, with the middle of their country (EPSG registry codes;
     * from memory, names by PROJ).
     */
    private const COMMON = [
        'EPSG:27700' => [-2, 54],
        'EPSG:29903' => [-8, 53],
        'EPSG:2154' => [2, 47],
        'EPSG:28992' => [5, 52],
        'EPSG:31370' => [4, 51],
        'EPSG:25832' => [9, 51],
        'EPSG:25833' => [14, 52],
        'EPSG:31467' => [9, 51],
        'EPSG:31287' => [14, 48],
        'EPSG:2056' => [8, 47],
        'EPSG:21781' => [8, 47],
        'EPSG:3035' => [10, 50],
        'EPSG:3006' => [16, 62],
        'EPSG:3067' => [26, 64],
        'EPSG:2180' => [19, 52],
        'EPSG:5514' => [17, 49],
        'EPSG:3763' => [-8, 40],
        'EPSG:3003' => [10, 43],
        'EPSG:2193' => [173, -41],
        'EPSG:28355' => [147, -37],
        'EPSG:28356' => [152, -30],
        'EPSG:7855' => [147, -37],
        'EPSG:7856' => [152, -30],
        'EPSG:5070' => [-96, 39],
        'EPSG:3347' => [-95, 60],
        'EPSG:2263' => [-74, 41],
        'EPSG:3826' => [121, 24],
        'EPSG:2326' => [114, 22],
        'EPSG:6674' => [140, 36],
    ];

    /** Grids within so many degrees are tried first; asking for each costs a process. */
    private const NEAR = 15;

    private const SHOWN = 8;

    /**
     * @return list<array{system: string, name: string, points: list<array{float, float}>, in_area: int}> the likeliest
     *     first
     */
    public static function candidates(Import $import, ?string $typed): array
    {
        $pairs = self::sample($import);
        if ($pairs === []) {
            return [];
        }
        $area = $import->programme->area();
        if ($typed !== null) {
            return self::told(self::tried([$typed], $pairs, $area));
        }
        [$lon, $lat] = [($area->west + $area->east) / 2, ($area->south + $area->north) / 2];
        $near = array_map(strval(...), array_keys(
            array_filter(
                self::COMMON,
                static fn (array $middle): bool => abs(fmod($middle[0] - $lon + 540, 360) - 180) < self::NEAR &&
                    abs($middle[1] - $lat) < self::NEAR,
            ),
        ));
        $found = self::tried(['EPSG:4326', 'EPSG:3857', ...$near, ...self::zones($area)], $pairs, $area);
        if (! array_filter($found, static fn (array $f): bool => $f['in_area'] > 0)) {
            $found = [
                ...$found,
                ...self::tried(array_values(array_diff(array_keys(self::COMMON), $near)), $pairs, $area),
            ];
        }

        return self::told($found);
    }

    /**
     * @param  list<string>  $systems
     * @param  list<array{float, float}>  $pairs
     * @return list<array{system: string, points: list<array{float, float}>, in_area: int, away: float}>
     */
    private static function tried(array $systems, array $pairs, Box $area): array
    {
        $found = [];
        foreach ($systems as $system) {
            $points = array_values(
                array_filter(
                    $system === 'EPSG:4326'
                        ? array_map(
                            static fn (array $p): ?array => abs($p[0]) <= 180 && abs($p[1]) <= 90 ? $p : null,
                            $pairs,
                        )
                        : (new Gdal)->degrees($pairs, $system),
                ),
            );
            if (count($points) * 2 < count($pairs)) {
                continue;
            }
            $in = count(
                array_filter(
                    $points,
                    static fn (array $p): bool => abs($p[0]) <= 180 &&
                        abs($p[1]) <= 90 &&
                        $area->contains(Position::of($p[0], $p[1])),
                ),
            );
            [$lon, $lat] = $points[0];
            $away = hypot(
                fmod($lon - ($area->west + $area->east) / 2 + 540, 360) - 180,
                $lat - ($area->south + $area->north) / 2,
            );
            $found[] = [
                'system' => $system,
                'points' => array_map(static fn (array $p): array => [round($p[0], 5), round($p[1], 5)], $points),
                'in_area' => $in,
                'away' => $away,
            ];
        }

        return $found;
    }

    /**
     * @param  list<array{system: string, points: list<array{float, float}>, in_area: int, away: float}>  $found
     * @return list<array{system: string, name: string, points: list<array{float, float}>, in_area: int}>
     */
    private static function told(array $found): array
    {
        usort(
            $found,
            static fn (array $a, array $b): int => [$b['in_area'], $a['away']] <=> [$a['in_area'], $b['away']],
        );

        return array_map(
            static fn (array $f): array => [
                'system' => $f['system'],
                'name' => Gdal::systemName($f['system']) ?? $f['system'],
                'points' => $f['points'],
                'in_area' => $f['in_area'],
            ],
            array_slice($found, 0, self::SHOWN),
        );
    }

    /** @return list<array{float, float}> */
    private static function sample(Import $import): array
    {
        $pairs = [];
        $settings = ImportSettings::of((array) $import->settings);
        $bounds = $import->source['bounds'] ?? null;
        if ($settings->way === 'geometry' && is_array($bounds)) {
            [$w, $s, $e, $n] = $bounds;

            return [[($w + $e) / 2, ($s + $n) / 2], [$w, $s], [$e, $s], [$e, $n], [$w, $n]];
        }
        if ($settings->way !== 'pair') {
            return [];
        }
        $reader = new PairReader(true, null);
        foreach ((new ImportRows($import))->rows($settings->headRow) as [$cells]) {
            $pair = $reader->numbers(
                $cells[$settings->placeColumns[0]] ?? '',
                $cells[$settings->placeColumns[1]] ?? '',
            );
            if (! $pair instanceof Problem) {
                $pairs[] = $pair;
            }
            if (count($pairs) >= self::SAMPLE) {
                break;
            }
        }

        return $pairs;
    }

    /**
     * UTM on WGS 84 where the programme works, with the neighbours.
     *
     * @return list<string>
     */
    private static function zones(Box $area): array
    {
        $middle = ($area->west + $area->east) / 2;
        $zone = (int) floor(($middle + 180) / 6) + 1;
        $codes = [];
        foreach ([$zone, $zone - 1, $zone + 1] as $z) {
            $z = (($z + 59) % 60) + 1;
            foreach ($area->south + $area->north >= 0 ? [32600, 32700] : [32700, 32600] as $base) {
                $codes[] = 'EPSG:'.($base + $z);
            }
        }

        return $codes;
    }
}

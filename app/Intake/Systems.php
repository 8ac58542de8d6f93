<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Import;
use PinYard\Geo\Box;
use PinYard\Geo\Position;
use PinYard\Intake\IntakeSettings;
use PinYard\Intake\PairReader;
use PinYard\Problem;

/** Reference systems that a file's coordinates may be in, each with where the points would fall. */
final class Systems
{
    private const SAMPLE = 40;

    /** Grids that national mapping agencies give their data in, and the web's own projection (EPSG registry codes; from memory, names by PROJ). */
    private const COMMON = ['EPSG:3857', 'EPSG:27700', 'EPSG:29903', 'EPSG:2154', 'EPSG:28992', 'EPSG:31370', 'EPSG:25832', 'EPSG:25833', 'EPSG:31467', 'EPSG:31287', 'EPSG:2056', 'EPSG:21781', 'EPSG:3035', 'EPSG:3006', 'EPSG:3067', 'EPSG:2180', 'EPSG:5514', 'EPSG:3763', 'EPSG:3003', 'EPSG:2193', 'EPSG:28355', 'EPSG:28356', 'EPSG:7855', 'EPSG:7856', 'EPSG:5070', 'EPSG:3347', 'EPSG:2263', 'EPSG:3826', 'EPSG:2326', 'EPSG:6674'];

    private const SHOWN = 8;

    /** @return list<array{system: string, name: string, points: list<array{float, float}>, in_area: int}> the likeliest first */
    public static function candidates(Import $import, ?string $typed): array
    {
        $pairs = self::sample($import);
        if ($pairs === []) {
            return [];
        }
        $area = $import->programme->area();
        $systems = $typed === null ? ['EPSG:4326', ...self::zones($area), ...self::COMMON] : [$typed];
        $found = [];
        foreach ($systems as $system) {
            $points = array_values(array_filter($system === 'EPSG:4326' ? array_map(static fn (array $p): ?array => abs($p[0]) <= 180 && abs($p[1]) <= 90 ? $p : null, $pairs) : (new Gdal)->degrees($pairs, $system)));
            if (count($points) * 2 < count($pairs)) {
                continue;
            }
            $in = count(array_filter($points, static fn (array $p): bool => abs($p[0]) <= 180 && abs($p[1]) <= 90 && $area->contains(Position::of($p[0], $p[1]))));
            [$lon, $lat] = $points[0];
            $away = hypot(fmod($lon - ($area->west + $area->east) / 2 + 540, 360) - 180, $lat - ($area->south + $area->north) / 2);
            $found[] = ['system' => $system, 'points' => array_map(static fn (array $p): array => [round($p[0], 5), round($p[1], 5)], $points), 'in_area' => $in, 'away' => $away];
        }
        usort($found, static fn (array $a, array $b): int => [$b['in_area'], $a['away']] <=> [$a['in_area'], $b['away']]);

        return array_map(static fn (array $f): array => ['system' => $f['system'], 'name' => Gdal::systemName($f['system']) ?? $f['system'], 'points' => $f['points'], 'in_area' => $f['in_area']], array_slice($found, 0, self::SHOWN));
    }

    /** @return list<array{float, float}> */
    private static function sample(Import $import): array
    {
        $pairs = [];
        $settings = IntakeSettings::of((array) $import->settings);
        $bounds = $import->source['bounds'] ?? null;
        if ($settings->way === 'geometry' && is_array($bounds)) {
            [$w, $s, $e, $n] = $bounds;

            return [[($w + $e) / 2, ($s + $n) / 2], [$w, $s], [$e, $s], [$e, $n], [$w, $n]];
        }
        if ($settings->way !== 'pair') {
            return [];
        }
        $reader = new PairReader(true, null);
        foreach ((new Table($import))->rows($settings->headRow) as [$cells]) {
            $pair = $reader->numbers($cells[$settings->placeColumns[0]] ?? '', $cells[$settings->placeColumns[1]] ?? '');
            if (! $pair instanceof Problem) {
                $pairs[] = $pair;
            }
            if (count($pairs) >= self::SAMPLE) {
                break;
            }
        }

        return $pairs;
    }

    /** UTM on WGS 84 where the programme works, with the neighbours. @return list<string> */
    private static function zones(Box $area): array
    {
        $middle = ($area->west + $area->east) / 2;
        $zone = (int) floor(($middle + 180) / 6) + 1;
        $codes = [];
        foreach ([$zone, $zone - 1, $zone + 1] as $z) {
            $z = ($z + 59) % 60 + 1;
            foreach ($area->south + $area->north >= 0 ? [32600, 32700] : [32700, 32600] as $base) {
                $codes[] = 'EPSG:'.($base + $z);
            }
        }

        return $codes;
    }
}

<?php

declare(strict_types=1);

namespace App;

use PinYard\Geo\Box;
use PinYard\Refused;

/**
 * The backdrops that this copy has: those that ship, and those that were added to it (`bin/backdrop`). Each is two
 * files of its key's name: GeoJSON, and how it is drawn. The latter names whom it is owed to, the box it is of (without
 * one: everywhere), the zooms it is drawn at, and layers of a MapLibre style over the source of its key, labels apart.
 *
 * @phpstan-type Style array{attribution: ?string, box: ?array{float, float, float, float}, zoom: ?array{float, float},
 *     layers: list<array<string, mixed>>, labels: list<array<string, mixed>>}
 * @phpstan-type Backdrop array{key: string, address: string, bytes: int, version: string, style: Style}
 */
final class Backdrops
{
    private const DRAWN = ['fill', 'line', 'circle', 'symbol'];

    private const STYLES = '/^([a-z][a-z0-9-]{0,30})\.style\.json$/D';

    /** @return list<Backdrop> all of them; what lies under the others first */
    public static function all(): array
    {
        $all = [];
        foreach (self::files() as $key => [$data, $address, $file]) {
            $style = self::style($file, $key);
            if ($style !== null) {
                $version = hash('crc32b', @hash_file('crc32b', $data).@hash_file('crc32b', $file));
                $all[] = [
                    'key' => $key,
                    'address' => "$address?v=$version",
                    'bytes' => (int) @filesize($data),
                    'version' => $version,
                    'style' => $style,
                ];
            }
        }
        usort($all, static fn (array $a, array $b): int => self::reach($b['style']) <=> self::reach($a['style']));

        return $all;
    }

    /** @return list<Backdrop> those that show something of the area */
    public static function for(Box $area): array
    {
        return array_values(array_filter(
            self::all(),
            static fn (array $b): bool => $b['style']['box'] === null || self::meets($area, ...$b['style']['box']),
        ));
    }

    /** Names the files that there are, for whoever keeps what was told of them. */
    public static function version(): string
    {
        $names = [];
        foreach (self::files() as $key => [$data, , $style]) {
            $names[] = $key.@filemtime($data).':'.@filemtime($style);
        }

        return implode(',', $names);
    }

    /** @return list<array{properties: array<string, mixed>, geometry: array<string, mixed>}> what one is made of */
    public static function features(string $key): array
    {
        $at = self::files()[$key][0] ?? null;
        $file = $at === null ? null : json_decode((string) @file_get_contents($at), true);

        return array_values(array_filter(
            is_array($file) && is_array($file['features'] ?? null) ? $file['features'] : [],
            static fn (mixed $f): bool => is_array($f) && is_array($f['properties'] ?? null)
                && is_array($f['geometry'] ?? null)
                && is_string($f['geometry']['type'] ?? null) && is_array($f['geometry']['coordinates'] ?? null),
        ));
    }

    /** Where those are kept that were added to this copy. */
    public static function folder(): string
    {
        return storage_path('backdrops');
    }

    /** @return array<string, array{string, string, string}> by key: file of the data, its address, file of the style */
    private static function files(): array
    {
        $files = [];
        // One that ships is not replaced by one that was added.
        foreach ([[public_path('backdrop'), '/backdrop'], [self::folder(), '/backdrop/own']] as [$folder, $address]) {
            foreach (@scandir($folder) ?: [] as $name) {
                if (preg_match(self::STYLES, $name, $found) === 1 && is_file("$folder/$found[1].json")) {
                    $files[$found[1]] ??= ["$folder/$found[1].json", "$address/$found[1].json", "$folder/$name"];
                }
            }
        }

        return $files;
    }

    /** @return Style|null null where the file is none; maps are drawn without it then */
    private static function style(string $file, string $key): ?array
    {
        $style = json_decode((string) @file_get_contents($file), true);
        if (! is_array($style) || ! is_array($style['layers'] ?? null)) {
            return null;
        }
        // Another's file may say anything; a box that is none would stop every map that asks whether it meets its own.
        $box = $style['box'] ?? null;
        try {
            $box = $box === null ? null : Box::of(...array_values((array) $box))->toArray();
        } catch (Refused|\ArgumentCountError) {
            return null;
        }
        $zoom = $style['zoom'] ?? null;
        // One layer that is none leaves a whole map empty.
        $drawn = static fn (mixed $list): array => array_values(array_filter(
            (array) $list,
            static fn (mixed $layer): bool => is_array($layer) && is_string($layer['id'] ?? null)
                && ($layer['source'] ?? null) === $key && in_array($layer['type'] ?? null, self::DRAWN, true),
        ));

        return [
            'attribution' => is_string($style['attribution'] ?? null) ? $style['attribution'] : null,
            'box' => $box,
            'zoom' => is_array($zoom) && isset($zoom[0], $zoom[1]) ? [(float) $zoom[0], (float) $zoom[1]] : null,
            'layers' => $drawn($style['layers']),
            'labels' => $drawn($style['labels'] ?? []),
        ];
    }

    /** @param  Style  $style */
    private static function reach(array $style): float
    {
        [$west, $south, $east, $north] = $style['box'] ?? [-180, -90, 180, 90];

        return ($west <= $east ? $east - $west : 360 + $east - $west) * ($north - $south);
    }

    private static function meets(Box $area, float $west, float $south, float $east, float $north): bool
    {
        foreach ($area->parts() as $part) {
            foreach (Box::of($west, $south, $east, $north)->parts() as $own) {
                if ($part->west < $own->east && $part->east > $own->west
                    && $part->south < $own->north && $part->north > $own->south) {
                    return true;
                }
            }
        }

        return false;
    }
}

<?php

declare(strict_types=1);

namespace App;

use PinYard\Geo\Box;

/** The backdrops that ship with the application, by resources/backdrops.json; one without a box is of everywhere. */
final class Backdrops
{
    /**
     * @return list<array{key: string, address: string, bytes: int, version: string}> those that show something of the
     *     area
     */
    public static function for(Box $area): array
    {
        $out = [];
        foreach (self::shipped() as $backdrop) {
            if (! isset($backdrop['box']) || self::meets($area, ...$backdrop['box'])) {
                $out[] = self::file($backdrop['key']);
            }
        }

        return $out;
    }

    /** Names the files that there are, for whoever keeps what was told of them. */
    public static function version(): string
    {
        return implode(
            ',',
            array_map(
                static fn (array $b): string => $b['key'].@filemtime(public_path("backdrop/{$b['key']}.json")),
                self::shipped(),
            ),
        );
    }

    /** @return list<array{key: string, layers: list<array<string, mixed>>}> all that ship, with how they are drawn */
    public static function styles(): array
    {
        return self::shipped();
    }

    /**
     * @return list<array{key: string, box?: array{float, float, float, float}, layers: list<array<string, mixed>>}>
     */
    private static function shipped(): array
    {
        return json_decode(
            (string) file_get_contents(resource_path('backdrops.json')),
            true,
            flags: JSON_THROW_ON_ERROR,
        );
    }

    private static function meets(Box $area, float $west, float $south, float $east, float $north): bool
    {
        foreach ($area->parts() as $part) {
            if ($part->west < $east && $part->east > $west && $part->south < $north && $part->north > $south) {
                return true;
            }
        }

        return false;
    }

    /** @return array{key: string, address: string, bytes: int, version: string} */
    private static function file(string $key): array
    {
        $path = public_path("backdrop/$key.json");

        return [
            'key' => $key,
            'address' => "/backdrop/$key.json",
            'bytes' => (int) @filesize($path),
            'version' => (string) @hash_file('crc32b', $path),
        ];
    }
}

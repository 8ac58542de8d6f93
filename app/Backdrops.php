<?php

declare(strict_types=1);

namespace App;

use PinYard\Geo\Box;

/** The backdrops that ship with the application; all are made-up or in the public domain. */
final class Backdrops
{
    /** Box of the Halcyon Cays, the invented islands of the demo. */
    private const CAYS = [-11.8, -14.33, -11.48, -14.06];

    /** @return list<array{key: string, address: string, bytes: int, version: string}> those that show something of the area */
    public static function for(Box $area): array
    {
        $out = [self::file('world')];
        [$west, $south, $east, $north] = self::CAYS;
        foreach ($area->parts() as $part) {
            if ($part->west < $east && $part->east > $west && $part->south < $north && $part->north > $south) {
                $out[] = self::file('cays');
                break;
            }
        }

        return $out;
    }

    /** @return array{key: string, address: string, bytes: int, version: string} */
    private static function file(string $key): array
    {
        $path = public_path("backdrop/$key.json");

        return ['key' => $key, 'address' => "/backdrop/$key.json", 'bytes' => (int) @filesize($path), 'version' => (string) @hash_file('crc32b', $path)];
    }
}

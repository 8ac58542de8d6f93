<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Design\GeometryKind;

/**
 * Shapes as well-known binary (OGC 06-103r4, section 8.2), little-endian, as a database column keeps them:
 * MariaDB and MySQL put the number of the coordinate system before it in four bytes (0: none said).
 */
final class Wkb
{
    private const TYPES = ['point' => 1, 'line' => 2, 'area' => 3];

    public static function column(Shape $shape): string
    {
        $body = match ($shape->kind) {
            GeometryKind::Point => pack('ee', ...$shape->parts[0][0]),
            GeometryKind::Line => self::packed($shape->parts[0]),
            GeometryKind::Area => pack('V', count($shape->parts)).implode('', array_map(self::packed(...), $shape->parts)),
        };

        return pack('VCV', 0, 1, self::TYPES[$shape->kind->value]).$body;
    }

    /** A shape as it was written by {@see column()}; null for kinds that are not kept. */
    public static function fromColumn(?string $bytes): ?Shape
    {
        if ($bytes === null || strlen($bytes) < 25) {
            return null;
        }
        $kind = array_search(self::number($bytes, 5), self::TYPES, true);
        if ($kind === false) {
            return null;
        }
        $kind = GeometryKind::from($kind);
        $at = 9;
        if ($kind === GeometryKind::Point) {
            return Shape::of($kind, [self::places($bytes, $at, 1)]);
        }
        $rings = 1;
        if ($kind === GeometryKind::Area) {
            $rings = self::number($bytes, $at);
            $at += 4;
        }
        $parts = [];
        for ($i = 0; $i < $rings; $i++) {
            $count = self::number($bytes, $at);
            $at += 4;
            $parts[] = self::places($bytes, $at, $count);
            $at += 16 * $count;
        }

        return Shape::of($kind, $parts);
    }

    /**
     * Just the geometry, without working out what it measures: for maps with many of them.
     *
     * @return array{type: string, coordinates: list<mixed>}|null
     */
    public static function geoJson(?string $bytes, GeometryKind $wanted, int $decimals = 7): ?array
    {
        if ($bytes === null || strlen($bytes) < 25 || self::number($bytes, 5) !== self::TYPES[$wanted->value]) {
            return null;
        }
        if ($wanted === GeometryKind::Point) {
            return ['type' => 'Point', 'coordinates' => self::rounded(self::places($bytes, 9, 1), $decimals)[0]];
        }
        if ($wanted === GeometryKind::Line) {
            return ['type' => 'LineString', 'coordinates' => self::rounded(self::places($bytes, 13, self::number($bytes, 9)), $decimals)];
        }
        $rings = [];
        for ($i = 0, $at = 13; $i < self::number($bytes, 9); $i++) {
            $count = self::number($bytes, $at);
            $rings[] = self::rounded(self::places($bytes, $at + 4, $count), $decimals);
            $at += 4 + 16 * $count;
        }

        return ['type' => 'Polygon', 'coordinates' => $rings];
    }

    /** @param  list<array{float, float}>  $places */
    private static function packed(array $places): string
    {
        $packed = pack('V', count($places));
        foreach ($places as [$lon, $lat]) {
            $packed .= pack('ee', $lon, $lat);
        }

        return $packed;
    }

    /**
     * @param  list<array{float, float}>  $places
     * @return list<array{float, float}>
     */
    private static function rounded(array $places, int $decimals): array
    {
        $rounded = [];
        foreach ($places as [$lon, $lat]) {
            $rounded[] = [round($lon, $decimals), round($lat, $decimals)];
        }

        return $rounded;
    }

    private static function number(string $bytes, int $at): int
    {
        $read = unpack('V', $bytes, $at);

        return is_array($read) && is_int($read[1] ?? null) ? $read[1] : 0;
    }

    /** @return list<array{float, float}> */
    private static function places(string $bytes, int $at, int $count): array
    {
        $numbers = unpack('e'.(2 * $count), $bytes, $at);
        $places = [];
        foreach (array_chunk(is_array($numbers) ? array_values(array_filter($numbers, is_float(...))) : [], 2) as $pair) {
            $places[] = [$pair[0], $pair[1] ?? 0.0];
        }

        return $places;
    }
}

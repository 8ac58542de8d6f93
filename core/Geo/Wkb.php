<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Shapes as well-known binary (OGC 06-103r4, section 8.2), little-endian, as a database column keeps them:
 * MariaDB and MySQL put the number of the coordinate system before it in four bytes (0: none said).
 */
final class Wkb
{
    private const TYPES = ['point' => 1, 'line' => 2, 'area' => 3];

    /** Beside the number of a kind, that of several of them in one. */
    private const SEVERAL = ['point' => 4, 'line' => 5, 'area' => 6];

    public static function column(Shape $shape): string
    {
        $several = count($shape->begins) > 1;
        $body = match ($shape->kind) {
            GeometryKind::Point => pack('ee', ...$shape->parts[0][0]),
            GeometryKind::Line => $several
                ? self::several(2, array_map(self::packed(...), $shape->parts))
                : self::packed($shape->parts[0]),
            GeometryKind::Area => $several
                ? self::several(3, array_map(self::rings(...), $shape->polygons()))
                : self::rings($shape->parts),
        };

        return pack('VCV', 0, 1, ($several ? self::SEVERAL : self::TYPES)[$shape->kind->value]).$body;
    }

    /**
     * An area that nothing is to be measured of.
     *
     * @param  list<list<list<array{float, float}>>>  $polygons  each with its rings
     */
    public static function ofPolygons(array $polygons): string
    {
        return pack('VCV', 0, 1, self::SEVERAL['area']).self::several(3, array_map(self::rings(...), $polygons));
    }

    /** @param  list<string>  $bodies */
    private static function several(int $type, array $bodies): string
    {
        return pack('V', count($bodies)).
            implode('', array_map(static fn (string $body): string => pack('CV', 1, $type).$body, $bodies));
    }

    /** @param  list<list<array{float, float}>>  $rings */
    private static function rings(array $rings): string
    {
        return pack('V', count($rings)).implode('', array_map(self::packed(...), $rings));
    }

    /** A shape as it was written by {@see column()}; null for kinds that are not kept. */
    public static function fromColumn(?string $bytes): ?Shape
    {
        if ($bytes === null || strlen($bytes) < 25) {
            return null;
        }
        $type = self::number($bytes, 5);
        $kind = array_search($type, self::TYPES, true) ?: array_search($type, self::SEVERAL, true);
        $geometry = $kind === false ? null : self::geoJson($bytes, GeometryKind::from($kind), 15);

        return $kind === false || $geometry === null ? null : Shape::fromGeoJson($geometry, GeometryKind::from($kind));
    }

    /**
     * Just the geometry, without working out what it measures: for maps with many of them.
     *
     * @return array{type: string, coordinates: list<mixed>}|null
     */
    public static function geoJson(?string $bytes, GeometryKind $wanted, int $decimals = 7): ?array
    {
        $type = $bytes === null || strlen($bytes) < 25 ? 0 : self::number($bytes, 5);
        if (
            $bytes === null ||
            ($type !== self::TYPES[$wanted->value] &&
                ($type !== self::SEVERAL[$wanted->value] || $wanted === GeometryKind::Point))
        ) {
            return null;
        }
        if ($wanted === GeometryKind::Point) {
            return ['type' => 'Point', 'coordinates' => self::rounded(self::places($bytes, 9, 1), $decimals)[0]];
        }
        $at = 9;
        if ($type === self::TYPES[$wanted->value]) {
            return [
                'type' => $wanted->geoJson(),
                'coordinates' => $wanted === GeometryKind::Line
                        ? self::lineAt($bytes, $at, $decimals)
                        : self::ringsAt($bytes, $at, $decimals),
            ];
        }
        $parts = [];
        $count = self::number($bytes, $at);
        for ($i = 0, $at += 4; $i < $count; $i++) {
            // Each part names its byte order and type once more.
            $at += 5;
            $parts[] =
                $wanted === GeometryKind::Line
                    ? self::lineAt($bytes, $at, $decimals)
                    : self::ringsAt($bytes, $at, $decimals);
        }

        return ['type' => 'Multi'.$wanted->geoJson(), 'coordinates' => $parts];
    }

    /**
     * @return list<list<array{float, float}>>|null the parts of a line, or all rings of an area; null where it is of
     *     another kind
     */
    public static function partsOf(?string $bytes, GeometryKind $kind): ?array
    {
        $parts = match ($kind) {
            GeometryKind::Area => self::allRings($bytes),
            GeometryKind::Line => self::linesOf($bytes),
            GeometryKind::Point => [],
        };

        return $parts === [] ? null : $parts;
    }

    /** @return list<list<array{float, float}>> */
    private static function linesOf(?string $bytes): array
    {
        $geometry = self::geoJson($bytes, GeometryKind::Line, 15);

        /** @var list<list<array{float, float}>> */
        return match ($geometry['type'] ?? null) {
            'LineString' => [$geometry['coordinates']],
            'MultiLineString' => $geometry['coordinates'],
            default => [],
        };
    }

    /**
     * @return list<list<array{float, float}>> all rings of an area, whatever part they belong to: enough to tell what
     *     lies in it
     */
    public static function allRings(?string $bytes): array
    {
        $geometry = self::geoJson($bytes, GeometryKind::Area, 15);

        /** @var list<list<array{float, float}>> */
        return $geometry === null
            ? []
            : ($geometry['type'] === 'Polygon'
                ? $geometry['coordinates']
                : array_merge(...array_filter($geometry['coordinates'], is_array(...))));
    }

    /**
     * @param  int  $at  moves on
     * @return list<array{float, float}>
     */
    private static function lineAt(string $bytes, int &$at, int $decimals): array
    {
        $count = self::number($bytes, $at);
        $places = self::rounded(self::places($bytes, $at + 4, $count), $decimals);
        $at += 4 + 16 * $count;

        return $places;
    }

    /**
     * @param  int  $at  moves on
     * @return list<list<array{float, float}>>
     */
    private static function ringsAt(string $bytes, int &$at, int $decimals): array
    {
        $rings = [];
        $count = self::number($bytes, $at);
        for ($i = 0, $at += 4; $i < $count; $i++) {
            $rings[] = self::lineAt($bytes, $at, $decimals);
        }

        return $rings;
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
        $numbers = unpack('e'. 2 * $count, $bytes, $at);
        $places = [];
        foreach (
            array_chunk(is_array($numbers) ? array_values(array_filter($numbers, is_float(...))) : [], 2) as $pair
        ) {
            $places[] = [$pair[0], $pair[1] ?? 0.0];
        }

        return $places;
    }
}

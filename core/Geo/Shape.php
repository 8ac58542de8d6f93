<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Refused;

/**
 * What a record is on the ground: a point, a line or an area (with holes), in degrees on WGS 84.
 *
 * `place` stands for the whole where one place is asked for: half way along a line, a place inside an area.
 * Coordinates are those of GeoJSON (RFC 7946): rings closed, the outer one against the clock, holes with it.
 */
final readonly class Shape
{
    public const MOST_CORNERS = 20_000;

    /**
     * @param  float|null  $length  metres along a line, or around an area with its holes
     * @param  float|null  $area  square metres without the holes
     * @param  list<list<array{float, float}>>  $parts  one list of places for a point, one for each part of a line, the
     *     rings of an area
     * @param  list<int>  $begins  which of them begin a part: every part of a line, the outer rings of an area
     */
    private function __construct(
        public GeometryKind $kind,
        public array $parts,
        public Position $place,
        public ?float $length,
        public ?float $area,
        public array $begins = [0],
    ) {
    }

    public static function point(Position $at): self
    {
        return new self(GeometryKind::Point, [[[$at->lon, $at->lat]]], $at, null, null);
    }

    /**
     * Reads a GeoJSON geometry of the kind that the layer has. An open ring is closed, and turned where it runs the
     * wrong way.
     *
     * @throws Refused
     */
    public static function fromGeoJson(mixed $geometry, GeometryKind $kind): self
    {
        if ($kind === GeometryKind::Point) {
            return self::point(Position::fromGeoJson($geometry));
        }
        $type = is_array($geometry) ? $geometry['type'] ?? null : null;
        $coordinates = is_array($geometry) ? $geometry['coordinates'] ?? null : null;
        $several = $type === 'Multi'.$kind->geoJson();
        if (($type !== $kind->geoJson() && ! $several) || ! is_array($coordinates)) {
            throw Refused::because(
                $kind === GeometryKind::Line ? 'shape_no_line' : 'shape_no_area',
                'geometry',
                is_scalar($type) ? $type : null,
            );
        }
        if (! $several || $kind === GeometryKind::Line) {
            return self::of(
                $kind,
                $several ? $coordinates : ($kind === GeometryKind::Line ? [$coordinates] : $coordinates),
            );
        }
        try {
            return self::ofPolygons($coordinates);
        } catch (EnclosesNothing $e) {
            // A part that encloses nothing is none.
            $whole = array_values(array_filter($coordinates, self::encloses(...)));

            return $whole === [] ? throw $e : self::ofPolygons($whole);
        }
    }

    private static function encloses(mixed $polygon): bool
    {
        try {
            self::of(GeometryKind::Area, is_array($polygon) ? $polygon : []);

            return true;
        } catch (EnclosesNothing) {
            return false;
        } catch (Refused) {
            // What is wrong in another way is to be told of.
            return true;
        }
    }

    /**
     * @param  array<mixed>  $polygons  each with its rings
     *
     * @throws Refused
     */
    private static function ofPolygons(array $polygons): self
    {
        $rings = $begins = [];
        foreach ($polygons as $polygon) {
            $begins[] = count($rings);
            array_push(
                $rings,
                ...is_array($polygon) && $polygon !== []
                    ? array_values($polygon)
                    : throw Refused::because('shape_no_list', 'geometry'),
            );
        }

        return self::of(GeometryKind::Area, $rings, $begins);
    }

    /**
     * @param  array<mixed>  $parts
     * @param  list<int>  $begins  of an area of several parts: its outer rings
     *
     * @throws Refused
     */
    public static function of(GeometryKind $kind, array $parts, array $begins = [0]): self
    {
        $read = [];
        $corners = 0;
        foreach ($parts as $part) {
            $read[] = $places = self::places($part);
            $corners += count($places);
        }
        if ($corners > self::MOST_CORNERS) {
            throw Refused::because('shape_corners', 'geometry', $corners, [
                'count' => $corners,
                'most' => self::MOST_CORNERS,
            ]);
        }

        return match ($kind) {
            GeometryKind::Point => self::point(Position::of($read[0][0][0] ?? null, $read[0][0][1] ?? null)),
            GeometryKind::Line => self::line($read),
            GeometryKind::Area => self::area($read, $begins),
        };
    }

    /** @return array{type: string, coordinates: list<mixed>} */
    public function toGeoJson(): array
    {
        if (count($this->begins) > 1) {
            return [
                'type' => 'Multi'.$this->kind->geoJson(),
                'coordinates' => $this->kind === GeometryKind::Line ? $this->parts : $this->polygons(),
            ];
        }

        return [
            'type' => $this->kind->geoJson(),
            'coordinates' => match ($this->kind) {
                GeometryKind::Point => $this->parts[0][0],
                GeometryKind::Line => $this->parts[0],
                GeometryKind::Area => $this->parts,
            },
        ];
    }

    /** @return list<list<list<array{float, float}>>> the rings of each part of an area */
    public function polygons(): array
    {
        $polygons = [];
        foreach ($this->begins as $i => $begin) {
            $polygons[] = array_slice($this->parts, $begin, ($this->begins[$i + 1] ?? count($this->parts)) - $begin);
        }

        return $polygons;
    }

    /** @param  list<list<array{float, float}>>  $lines */
    private static function line(array $lines): self
    {
        $length = 0.0;
        $longest = [-1.0, []];
        foreach ($lines === [] ? [[]] : $lines as $places) {
            if (count($places) < 2) {
                throw Refused::because('shape_line_short', 'geometry', count($places));
            }
            $metres = Geodesic::length($places);
            $length += $metres;
            $longest = $metres > $longest[0] ? [$metres, $places] : $longest;
        }

        return new self(GeometryKind::Line, $lines, self::halfWay($longest[1]), $length, null, array_keys($lines));
    }

    /**
     * @param  list<list<array{float, float}>>  $rings
     * @param  list<int>  $begins
     */
    private static function area(array $rings, array $begins): self
    {
        $size = $length = 0.0;
        $turned = [];
        $parts = [];
        foreach ($rings as $i => $ring) {
            $outer = in_array($i, $begins, true);
            if (count($ring) > 1 && $ring[0] === $ring[count($ring) - 1]) {
                array_pop($ring);
            }
            if (count($ring) < 3) {
                throw EnclosesNothing::because('shape_area_small', 'geometry', count($ring));
            }
            if (($cross = SelfCrossing::in($ring)) !== null) {
                throw Refused::because('shape_crosses', 'geometry', null, [
                    'lon' => round($cross[0], 5),
                    'lat' => round($cross[1], 5),
                ]);
            }
            $inside = Geodesic::area($ring);
            // Corners in a row enclose nothing on a map, though the geodesics between them bulge.
            if (abs($inside) < 1e-4 || self::isFlat($ring)) {
                throw EnclosesNothing::because('shape_area_small', 'geometry', count($ring));
            }
            if ($inside < 0 xor ! $outer) {
                $ring = array_reverse($ring);
            }
            $ring[] = $ring[0];
            $turned[] = $ring;
            $parts[] = $outer ? abs($inside) : -abs($inside);
            $size += $parts[$i];
            $length += Geodesic::length($ring);
        }
        if ($turned === []) {
            throw EnclosesNothing::because('shape_area_small', 'geometry', 0);
        }
        if ($size <= 0) {
            throw Refused::because('shape_holes', 'geometry');
        }

        // What stands for the whole lies in its largest part.
        $largest = 0;
        foreach ($begins as $i => $begin) {
            $largest = $parts[$begin] > $parts[$begins[$largest]] ? $i : $largest;
        }
        $main = array_slice($turned, $begins[$largest], ($begins[$largest + 1] ?? count($turned)) - $begins[$largest]);

        return new self(
            GeometryKind::Area,
            $turned,
            self::inside($main === [] ? $turned : $main),
            $length,
            $size,
            $begins,
        );
    }

    /**
     * @return list<array{float, float}> without places that stand twice in a row
     *
     * @throws Refused
     */
    private static function places(mixed $part): array
    {
        if (! is_array($part) || ! array_is_list($part)) {
            throw Refused::because('shape_no_list', 'geometry');
        }
        $places = [];
        foreach ($part as $one) {
            $at = is_array($one)
                ? Position::of($one[0] ?? null, $one[1] ?? null)
                : throw Refused::because('position_no_numbers', 'geometry');
            if ($places === [] || $places[count($places) - 1] !== [$at->lon, $at->lat]) {
                $places[] = [$at->lon, $at->lat];
            }
        }

        return $places;
    }

    /** @param  non-empty-list<array{float, float}>  $ring */
    private static function isFlat(array $ring): bool
    {
        [$lon0, $lat0] = $ring[0];
        $twice = $most = 0.0;
        for ($i = 1; $i < count($ring) - 1; $i++) {
            [$a, $b] = [self::eastward($lon0, $ring[$i][0]), $ring[$i][1] - $lat0];
            [$c, $d] = [self::eastward($lon0, $ring[$i + 1][0]), $ring[$i + 1][1] - $lat0];
            $twice += $a * $d - $b * $c;
            $most = max($most, $a * $a + $b * $b, $c * $c + $d * $d);
        }

        return abs($twice) <= $most * 1e-12;
    }

    /** @param  list<array{float, float}>  $places */
    private static function halfWay(array $places): Position
    {
        $rest = Geodesic::length($places) / 2;
        foreach (array_slice($places, 1) as $i => [$lon, $lat]) {
            [$fromLon, $fromLat] = $places[$i];
            $metres = Geodesic::metres($fromLon, $fromLat, $lon, $lat);
            if ($metres >= $rest) {
                // Along one edge the middle is found in degrees; edges are short.
                $share = $metres > 0 ? $rest / $metres : 0.0;

                return Position::of(
                    self::wrap($fromLon + $share * self::eastward($fromLon, $lon)),
                    $fromLat + $share * ($lat - $fromLat),
                );
            }
            $rest -= $metres;
        }

        return Position::of($places[0][0], $places[0][1]);
    }

    /**
     * The middle of the widest stretch inside the area, on the latitude half way between its ends.
     *
     * @param  non-empty-list<list<array{float, float}>>  $rings
     */
    private static function inside(array $rings): Position
    {
        $first = $rings[0][0][0];
        $lats = [$rings[0][0][1], ...array_column($rings[0], 1)];
        $lat = (min($lats) + max($lats)) / 2;
        if (in_array($lat, $lats, true)) {
            // Not through a corner.
            sort($lats);
            $above = array_values(array_filter($lats, static fn (float $l): bool => $l > $lat));
            $lat = ($lat + ($above[0] ?? max($lats))) / 2;
        }
        $crossings = [];
        foreach ($rings as $ring) {
            for ($i = 1; $i < count($ring); $i++) {
                [[$lon1, $lat1], [$lon2, $lat2]] = [$ring[$i - 1], $ring[$i]];
                if ($lat1 > $lat !== $lat2 > $lat) {
                    $from = self::eastward($first, $lon1);
                    $crossings[] = $from + (($lat - $lat1) / ($lat2 - $lat1)) * self::eastward($lon1, $lon2);
                }
            }
        }
        sort($crossings);
        [$widest, $lon] = [-1.0, 0.0];
        for ($i = 1; $i < count($crossings); $i += 2) {
            if ($widest < $crossings[$i] - $crossings[$i - 1]) {
                [$widest, $lon] = [$crossings[$i] - $crossings[$i - 1], ($crossings[$i] + $crossings[$i - 1]) / 2];
            }
        }

        return Position::of(self::wrap($first + $lon), $lat);
    }

    /** Degrees from one longitude to another, the short way. */
    private static function eastward(float $from, float $to): float
    {
        $by = fmod($to - $from, 360);

        return $by > 180 ? $by - 360 : ($by < -180 ? $by + 360 : $by);
    }

    private static function wrap(float $lon): float
    {
        return $lon > 180 ? $lon - 360 : ($lon < -180 ? $lon + 360 : $lon);
    }
}

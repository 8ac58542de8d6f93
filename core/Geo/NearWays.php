<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Ways, as pieces from one place to another, asked whether a place lies within so many metres of any of them. Each
 * measures in the plane that touches WGS 84 there (radii of curvature of the meridian and of the prime vertical:
 * Snyder 1987, Map Projections, USGS 1395, p. 24f), which for pieces of a few kilometres is right to a few decimetres.
 */
final class NearWays
{
    /** Semi-major axis in metres and first eccentricity squared of WGS 84 (NIMA TR8350.2). */
    private const A = 6_378_137.0;

    private const E2 = 0.006_694_379_990_14;

    /** Metres: cells are no smaller, or long pieces would lie in very many. */
    private const LEAST_CELL = 200.0;

    private readonly float $high;

    /** @var array<string, list<array{float, float, float, float}>> pieces by cell */
    private array $cells = [];

    /** @param  float  $metres  how near is near */
    public function __construct(private readonly float $metres)
    {
        // Of one row of cells, in degrees; a degree of latitude is nowhere shorter than 110,574 m.
        $this->high = max(self::LEAST_CELL, $metres) / 110_574.0;
    }

    /** A piece of a way, no longer than some kilometres; over the antimeridian it goes the short way. */
    public function add(float $lon1, float $lat1, float $lon2, float $lat2): void
    {
        $across = Longitude::eastward($lon1, $lon2);
        $most = max(abs($lat1), abs($lat2));
        $steps = (int) ceil(max(
            abs($lat2 - $lat1) / $this->high,
            abs($across) / $this->wide((int) floor($most / $this->high)),
        ) * 2) + 1;
        $seen = [];
        for ($i = 0; $i <= $steps; $i++) {
            $part = $i / $steps;
            [$row, $column] = $this->cell($lon1 + $across * $part, $lat1 + ($lat2 - $lat1) * $part);
            $seen["$row $column"] = true;
        }
        foreach (array_keys($seen) as $key) {
            $this->cells[$key][] = [$lon1, $lat1, $lon2, $lat2];
        }
    }

    public function isEmpty(): bool
    {
        return $this->cells === [];
    }

    public function isNear(float $lon, float $lat): bool
    {
        $row = (int) floor($lat / $this->high);
        for ($r = $row - 1; $r <= $row + 1; $r++) {
            // A row further north has wider cells in degrees.
            $wide = $this->wide($r);
            $round = (int) ceil(360 / $wide);
            $column = (int) floor(self::positive($lon) / $wide);
            for ($c = $column - 1; $c <= $column + 1; $c++) {
                foreach ($this->cells[$r.' '.(($c % $round) + $round) % $round] ?? [] as [$lon1, $lat1, $lon2, $lat2]) {
                    if (self::metres($lon, $lat, $lon1, $lat1, $lon2, $lat2) <= $this->metres) {
                        return true;
                    }
                }
            }
        }

        return false;
    }

    /** Metres from a place to a piece of a way. */
    public static function metres(
        float $lon,
        float $lat,
        float $lon1,
        float $lat1,
        float $lon2,
        float $lat2,
    ): float {
        $sin = sin(deg2rad($lat));
        $w = sqrt(1 - self::E2 * $sin * $sin);
        $east = deg2rad(self::A / $w * cos(deg2rad($lat)));
        $north = deg2rad(self::A * (1 - self::E2) / ($w * $w * $w));
        $x1 = Longitude::eastward($lon, $lon1) * $east;
        $y1 = ($lat1 - $lat) * $north;
        $dx = Longitude::eastward($lon1, $lon2) * $east;
        $dy = ($lat2 - $lat1) * $north;
        $long = $dx * $dx + $dy * $dy;
        $part = $long === 0.0 ? 0.0 : max(0.0, min(1.0, -($x1 * $dx + $y1 * $dy) / $long));

        return hypot($x1 + $part * $dx, $y1 + $part * $dy);
    }

    /** @return array{int, int} row and column */
    private function cell(float $lon, float $lat): array
    {
        $row = (int) floor($lat / $this->high);
        $wide = $this->wide($row);
        $round = (int) ceil(360 / $wide);

        return [$row, (int) floor(self::positive($lon) / $wide) % $round];
    }

    /** Of the cells of a row, in degrees: nowhere in it narrower than it is high. */
    private function wide(int $row): float
    {
        $most = max(abs($row), abs($row + 1)) * $this->high;

        return min(360.0, $this->high / max(1e-6, cos(deg2rad(min(89.9, $most)))));
    }

    private static function positive(float $lon): float
    {
        $lon = fmod($lon, 360);

        return $lon < 0 ? $lon + 360 : $lon;
    }
}

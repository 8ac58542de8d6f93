<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Refused;

/**
 * Universal Transverse Mercator on WGS 84, both ways, by Krüger's series to the third order in n (C. F. F. Karney,
 * "Transverse Mercator with an accuracy of a few nanometers", J. Geodesy 85, 2011, gives it to the sixth); coefficients
 * from memory, checked against GeoConvert to a millimetre.
 */
final readonly class Utm
{
    private const BANDS = 'CDEFGHJKLMNPQRSTUVWX';

    private const SCALE = 0.9996;

    private function __construct(public int $zone, public bool $north, public float $easting, public float $northing)
    {
    }

    /** @throws Refused where no such zone or no such metres exist */
    public static function of(int $zone, bool $north, float $easting, float $northing): self
    {
        if ($zone < 1 || $zone > 60) {
            throw Refused::because('utm_zone', 'place', $zone, ['zone' => $zone]);
        }
        if ($easting < 100_000 || $easting > 900_000 || $northing < 0 || $northing > 10_000_000) {
            throw Refused::because('utm_metres', 'place', "$easting $northing", [
                'east' => $easting,
                'north' => $northing,
            ]);
        }

        return new self($zone, $north, $easting, $northing);
    }

    public static function fromPosition(Position $position): self
    {
        $zone = min(60, (int) floor(($position->lon + 180) / 6) + 1);
        [$n, $a] = self::constants();
        $phi = deg2rad($position->lat);
        $lambda = deg2rad($position->lon - self::meridian($zone));
        $k = (2 * sqrt($n)) / (1 + $n);
        $t = sinh(atanh(sin($phi)) - $k * atanh($k * sin($phi)));
        $xi = atan2($t, cos($lambda));
        $eta = atanh(sin($lambda) / sqrt(1 + $t * $t));
        [$east, $north] = [$eta, $xi];
        foreach (self::alpha($n) as $j => $c) {
            $east += $c * cos(2 * $j * $xi) * sinh(2 * $j * $eta);
            $north += $c * sin(2 * $j * $xi) * cosh(2 * $j * $eta);
        }
        $northing = self::SCALE * $a * $north;

        return new self(
            $zone,
            $position->lat >= 0,
            500_000 + self::SCALE * $a * $east,
            $position->lat >= 0 ? $northing : $northing + 10_000_000,
        );
    }

    /** @throws Refused */
    public function position(): Position
    {
        [$n, $a] = self::constants();
        $xi = ($this->northing - ($this->north ? 0 : 10_000_000)) / (self::SCALE * $a);
        $eta = ($this->easting - 500_000) / (self::SCALE * $a);
        [$x, $e] = [$xi, $eta];
        foreach (self::beta($n) as $j => $c) {
            $x -= $c * sin(2 * $j * $xi) * cosh(2 * $j * $eta);
            $e -= $c * cos(2 * $j * $xi) * sinh(2 * $j * $eta);
        }
        $chi = asin(sin($x) / cosh($e));
        $phi = $chi;
        foreach (self::delta($n) as $j => $c) {
            $phi += $c * sin(2 * $j * $chi);
        }
        $lon = self::meridian($this->zone) + rad2deg(atan2(sinh($e), cos($x)));

        return Position::of($lon > 180 ? $lon - 360 : ($lon < -180 ? $lon + 360 : $lon), rad2deg($phi));
    }

    /** Whether a latitude band lies on the northern half; null for a letter that names none. */
    public static function isNorthern(string $band): ?bool
    {
        $i = strpos(self::BANDS, strtoupper($band));

        return $i === false ? null : $i >= 10;
    }

    private static function meridian(int $zone): int
    {
        return $zone * 6 - 183;
    }

    /** @return array{float, float} third flattening, rectifying radius in metres */
    private static function constants(): array
    {
        $n = Lambert::FLATTENING / (2 - Lambert::FLATTENING);

        return [$n, (Lambert::RADIUS / (1 + $n)) * (1 + $n ** 2 / 4 + $n ** 4 / 64)];
    }

    /** @return array<int, float> */
    private static function alpha(float $n): array
    {
        return [
            1 => $n / 2 - (2 * $n ** 2) / 3 + (5 * $n ** 3) / 16,
            2 => (13 * $n ** 2) / 48 - (3 * $n ** 3) / 5,
            3 => (61 * $n ** 3) / 240,
        ];
    }

    /** @return array<int, float> */
    private static function beta(float $n): array
    {
        return [
            1 => $n / 2 - (2 * $n ** 2) / 3 + (37 * $n ** 3) / 96,
            2 => $n ** 2 / 48 + $n ** 3 / 15,
            3 => (17 * $n ** 3) / 480,
        ];
    }

    /** @return array<int, float> */
    private static function delta(float $n): array
    {
        return [
            1 => 2 * $n - (2 * $n ** 2) / 3 - 2 * $n ** 3,
            2 => (7 * $n ** 2) / 3 - (8 * $n ** 3) / 5,
            3 => (56 * $n ** 3) / 15,
        ];
    }
}

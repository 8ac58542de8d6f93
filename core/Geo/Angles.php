<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Arithmetic of angles in degrees that loses no digits: sums with what rounding took from them, sines that are exact at
 * the quarters. Source: Karney 2013, Algorithms for geodesics, section 8; GeographicLib's Math class.
 *
 * @internal of {@see Geodesic}
 */
final class Angles
{
    /** @return array{float, float} */
    public static function unit(float $s, float $c): array
    {
        $r = sqrt($s * $s + $c * $c);

        return [$s / $r, $c / $r];
    }

    /**
     * @return array{float, float} degrees from the first longitude to the second, within 180, and what rounding took
     *     from them
     */
    public static function difference(float $x, float $y): array
    {
        [$d, $e] = self::exactSum(self::remainder(-$x), self::remainder($y));
        [$d, $e] = self::exactSum(self::remainder($d), $e);
        if ($d == 0.0 || abs($d) === 180.0) {
            $d = abs($d) * self::sign($e == 0.0 ? $y - $x : -$e);
        }

        return [$d, $e];
    }

    /** @return array{float, float} the sum, and what rounding took from it */
    public static function exactSum(float $u, float $v): array
    {
        $s = $u + $v;
        $up = $s - $v;
        $vp = $s - $up;

        return [$s, $s != 0.0 ? -($up - $u + ($vp - $v)) : $s];
    }

    public static function remainder(float $x): float
    {
        $x = fmod($x, 360);

        return $x < -180 ? $x + 360 : ($x < 180 ? $x : $x - 360);
    }

    public static function normal(float $x): float
    {
        $y = self::remainder($x);

        return abs($y) === 180.0 ? 180.0 * self::sign($x) : $y;
    }

    /** Tiny angles become zero, so that nothing is nearly singular. */
    public static function rounded(float $x): float
    {
        $y = abs($x);

        return ($y < 1 / 16 ? 1 / 16 - (1 / 16 - $y) : $y) * self::sign($x);
    }

    /**
     * Sine and cosine of degrees, exact at the quarters.
     *
     * @return array{float, float}
     */
    public static function sinCos(float $x, float $more): array
    {
        $d = fmod($x, 360);
        $q = (int) round($d / 90);
        $r = deg2rad(self::rounded($d - 90 * $q + $more));
        [$s, $c] = [sin($r), cos($r)];
        [$s, $c] = match ($q & 3) {
            0 => [$s, $c],
            1 => [$c, -$s],
            2 => [-$s, -$c],
            default => [-$c, $s],
        };

        return [$s, $c + 0.0];
    }

    public static function sign(float $x): float
    {
        return $x < 0 || ($x == 0.0 && fdiv(1.0, $x) < 0) ? -1.0 : 1.0;
    }
}

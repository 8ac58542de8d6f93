<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Distance on the WGS 84 ellipsoid in closed form, so that SQL, PHP and the phone can each work it out alike.
 *
 * Lambert's formula with the first-order correction for flattening (W. D. Lambert, "The distance between two widely
 * separated points on the surface of the earth", J. Washington Acad. Sci. 32, 1942); from memory, checked against
 * GeodSolve. Right to about ten metres over thousands of kilometres, to centimetres over a few; not for nearly opposite
 * points.
 */
final class Lambert
{
    public const RADIUS = 6_378_137.0;

    public const FLATTENING = 1 / 298.257223563;

    /** Metres between two places given in degrees. */
    public static function metres(float $lon1, float $lat1, float $lon2, float $lat2): float
    {
        $f = self::FLATTENING;
        // Reduced latitudes.
        $b1 = atan((1 - $f) * tan(deg2rad($lat1)));
        $b2 = atan((1 - $f) * tan(deg2rad($lat2)));
        $dLon = deg2rad($lon2 - $lon1);
        $h = sin(($b2 - $b1) / 2) ** 2 + cos($b1) * cos($b2) * sin($dLon / 2) ** 2;
        if ($h == 0.0) {
            return 0.0;
        }
        $angle = 2 * asin(min(1.0, sqrt($h)));
        $p = ($b1 + $b2) / 2;
        $q = ($b2 - $b1) / 2;
        $x = (($angle - sin($angle)) * sin($p) ** 2 * cos($q) ** 2) / max(1e-300, cos($angle / 2) ** 2);
        $y = (($angle + sin($angle)) * cos($p) ** 2 * sin($q) ** 2) / sin($angle / 2) ** 2;

        return self::RADIUS * ($angle - ($f / 2) * ($x + $y));
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Geo;

/** Lengths and areas on the WGS 84 ellipsoid, along shortest lines ({@see InverseGeodesic}). */
final class Geodesic
{
    /** Metres between two places given in degrees. */
    public static function metres(float $lon1, float $lat1, float $lon2, float $lat2): float
    {
        return InverseGeodesic::wgs84()->between($lat1, $lon1, $lat2, $lon2)[0];
    }

    /**
     * Metres along a line through these places.
     *
     * @param  list<array{float, float}>  $places  longitude, latitude
     */
    public static function length(array $places): float
    {
        $sum = 0.0;
        for ($i = 1; $i < count($places); $i++) {
            $sum += self::metres($places[$i - 1][0], $places[$i - 1][1], $places[$i][0], $places[$i][1]);
        }

        return $sum;
    }

    /**
     * Square metres inside a ring, positive where it runs against the clock.
     *
     * @param  list<array{float, float}>  $ring  longitude, latitude; closed or not
     */
    public static function area(array $ring): float
    {
        $earth = InverseGeodesic::wgs84();
        $whole = 4 * M_PI * $earth->c2;
        $sum = 0.0;
        $crossings = 0;
        for ($i = 0, $n = count($ring); $i < $n; $i++) {
            [[$lon1, $lat1], [$lon2, $lat2]] = [$ring[$i], $ring[($i + 1) % $n]];
            $sum += $earth->between($lat1, $lon1, $lat2, $lon2)[1];
            $crossings += self::crossing($lon1, $lon2);
        }
        $sum = fmod($sum, $whole);
        if ($crossings % 2 !== 0) {
            $sum += (($sum < 0 ? 1 : -1) * $whole) / 2;
        }
        $sum = -$sum;

        return $sum > $whole / 2 ? $sum - $whole : ($sum <= -$whole / 2 ? $sum + $whole : $sum);
    }

    /** 1 or -1 where the edge crosses the prime meridian eastwards or westwards. */
    private static function crossing(float $lon1, float $lon2): int
    {
        [$by] = Angles::difference($lon1, $lon2);
        [$lon1, $lon2] = [Angles::normal($lon1), Angles::normal($lon2)];

        return $by > 0 && (($lon1 < 0 && $lon2 >= 0) || ($lon1 > 0 && $lon2 == 0.0))
            ? 1
            : ($by < 0 && $lon1 >= 0 && $lon2 < 0
                ? -1
                : 0);
    }
}

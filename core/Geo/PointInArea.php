<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Whether a place lies in an area, by counting the edges that a way to the east crosses (even-odd rule; Shimrat 1962).
 * Edges are straight in longitude and latitude, as maps draw them; the phone does the same in shared/form/geodesic.ts.
 */
final class PointInArea
{
    /** @param  list<list<array{float, float}>>  $rings  of an area, closed */
    public static function of(array $rings, float $lon, float $lat): bool
    {
        $inside = false;
        foreach ($rings as $ring) {
            // Everything counts from the first corner, going along the ring, so that the antimeridian is no border.
            $here = Longitude::eastward($ring[0][0] ?? 0.0, $lon);
            for ($i = 1, $n = count($ring), $east = 0.0; $i < $n; $i++, $east += $by) {
                [$lat1, $lat2] = [$ring[$i - 1][1], $ring[$i][1]];
                $by = Longitude::eastward($ring[$i - 1][0], $ring[$i][0]);
                if ($lat1 > $lat !== $lat2 > $lat && $east + ($lat - $lat1) / ($lat2 - $lat1) * $by > $here) {
                    $inside = ! $inside;
                }
            }
        }

        return $inside;
    }
}

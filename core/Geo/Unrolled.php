<?php

declare(strict_types=1);

namespace PinYard\Geo;

/** Lines and rings as edges along them, so that the antimeridian is no border: longitudes may then go beyond 180. */
final class Unrolled
{
    /**
     * @param  list<list<array{float, float}>>  $parts  lines, or rings that are closed
     * @return list<array{float, float, float, float}> longitude and latitude of both ends; each part lies on that side
     *     of the world that is nearer to the first place
     */
    public static function edges(array $parts): array
    {
        $edges = [];
        $first = $parts[0][0][0] ?? 0.0;
        foreach ($parts as $part) {
            $lon = $first + Longitude::eastward($first, $part[0][0] ?? 0.0);
            for ($i = 1, $n = count($part); $i < $n; $i++) {
                $to = $lon + Longitude::eastward($part[$i - 1][0], $part[$i][0]);
                $edges[] = [$lon, $part[$i - 1][1], $to, $part[$i][1]];
                $lon = $to;
            }
        }

        return $edges;
    }
}

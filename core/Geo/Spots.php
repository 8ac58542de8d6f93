<?php

declare(strict_types=1);

namespace PinYard\Geo;

/** Places spread evenly over an area, or along a line: what share of them has something is a share of the whole. */
final class Spots
{
    /**
     * Of an area: on a square grid over it, at least one.
     *
     * @param  list<list<array{float, float}>>  $rings  of all its parts, closed
     * @param  int  $about  how many are wanted
     * @return list<array{float, float}> longitude and latitude
     */
    public static function inArea(array $rings, int $about): array
    {
        $first = $rings[0][0] ?? null;
        if ($first === null) {
            return [];
        }
        $west = $east = 0.0;
        $south = $north = $first[1];
        foreach ($rings as $ring) {
            foreach ($ring as [$lon, $lat]) {
                $by = Longitude::eastward($first[0], $lon);
                [$west, $east] = [min($west, $by), max($east, $by)];
                [$south, $north] = [min($south, $lat), max($north, $lat)];
            }
        }
        $narrow = max(0.01, cos(deg2rad(($south + $north) / 2)));
        // Of what frames it an area fills a part: a finer grid where too few lie in it.
        for ($wanted = $about; ; $wanted *= 4) {
            $step = sqrt(max(1e-18, ($east - $west) * $narrow * ($north - $south)) / $wanted);
            $spots = [];
            for ($lat = $south + $step / 2; $lat < $north; $lat += $step) {
                for ($by = $west + $step / $narrow / 2; $by < $east; $by += $step / $narrow) {
                    if (PointInArea::of($rings, $first[0] + $by, $lat)) {
                        $spots[] = [$first[0] + $by, $lat];
                    }
                }
            }
            if (count($spots) >= $about / 2 || $wanted > $about * 64) {
                return $spots === [] ? [$first] : $spots;
            }
        }
    }

    /**
     * Along lines, each as far from the next.
     *
     * @param  list<list<array{float, float}>>  $lines
     * @return list<array{float, float}>
     */
    public static function alongLines(array $lines, int $about): array
    {
        $pieces = [];
        $whole = 0.0;
        foreach ($lines as $line) {
            for ($i = 1, $n = count($line); $i < $n; $i++) {
                $metres = Geodesic::metres($line[$i - 1][0], $line[$i - 1][1], $line[$i][0], $line[$i][1]);
                $pieces[] = [$line[$i - 1], $line[$i], $metres];
                $whole += $metres;
            }
        }
        if ($whole <= 0) {
            return isset($lines[0][0]) ? [$lines[0][0]] : [];
        }
        $spots = [];
        $step = $whole / $about;
        $next = $step / 2;
        $gone = 0.0;
        foreach ($pieces as [$a, $b, $metres]) {
            for (; $next < $gone + $metres; $next += $step) {
                $part = ($next - $gone) / $metres;
                $spots[] = [$a[0] + Longitude::eastward($a[0], $b[0]) * $part, $a[1] + ($b[1] - $a[1]) * $part];
            }
            $gone += $metres;
        }

        return $spots;
    }
}

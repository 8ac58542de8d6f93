<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Geo\PointInArea;
use PinYard\Geo\ZOrder;

/**
 * Around quarters of the Z-order that lie beside one another: their sides, without those that two of them share, put
 * together to rings.
 */
final class CellOutline
{
    /** East, north, west, south: along the sides of a quarter, which lies on the left. */
    private const ALONG = [[1, 0], [0, -1], [-1, 0], [0, 1]];

    /**
     * @param  list<array{int, int, int}>  $quarters  steps from the west and the north, bits of the side; none in
     *     another
     * @return list<list<list<array{float, float}>>> polygons, each with its outer ring against the clock and its holes;
     *     two that meet at a corner alone are two
     */
    public static function of(array $quarters): array
    {
        if ($quarters === []) {
            return [];
        }
        $bits = min(array_column($quarters, 2));
        $outer = $holes = [];
        foreach (self::rings(self::sides($quarters, $bits)) as [$ring, $inside]) {
            $degrees = array_map(static fn (array $at): array => self::degrees($at[0], $at[1], $bits), $ring);
            if (self::isOuter($ring)) {
                $outer[] = [$degrees];
            } else {
                $holes[] = [$degrees, self::degrees($inside[0], $inside[1], $bits)];
            }
        }
        foreach ($holes as [$hole, $beside]) {
            $of = null;
            foreach ($outer as $i => $polygon) {
                // Of several, one within a hole of another, the inner one.
                if (PointInArea::of([$polygon[0]], ...$beside)
                    && ($of === null || PointInArea::of([$outer[$of][0]], ...$polygon[0][0]))) {
                    $of = $i;
                }
            }
            if ($of !== null) {
                $outer[$of][] = $hole;
            }
        }

        return $outer;
    }

    /** @return array{float, float} */
    private static function degrees(float $x, float $y, int $bits): array
    {
        $size = 1 << (ZOrder::BITS - $bits);

        return [$x / $size * 360 - 180, rad2deg(atan(sinh(M_PI * (1 - 2 * $y / $size))))];
    }

    /**
     * @param  list<array{int, int, int}>  $quarters
     * @return array<int, array<int, array<int, true>>> directions of the sides that are left, by row and column of
     *     where they begin, in sides of the smallest
     */
    private static function sides(array $quarters, int $bits): array
    {
        $sides = [];
        foreach ($quarters as [$x, $y, $of]) {
            $n = 1 << ($of - $bits);
            // From the south-western corner on.
            [$atX, $atY] = [$x >> $bits, ($y >> $bits) + $n];
            foreach (self::ALONG as $way => [$dx, $dy]) {
                for ($i = 0; $i < $n; $i++) {
                    [$toX, $toY] = [$atX + $dx, $atY + $dy];
                    $back = ($way + 2) % 4;
                    if (isset($sides[$toY][$toX][$back])) {
                        unset($sides[$toY][$toX][$back]);
                    } else {
                        $sides[$atY][$atX][$way] = true;
                    }
                    [$atX, $atY] = [$toX, $toY];
                }
            }
        }

        return $sides;
    }

    /**
     * @param  array<int, array<int, array<int, true>>>  $sides
     * @return list<array{list<array{int, int}>, array{float, float}}> closed rings of corners, each with a place just
     *     inside of what it goes around
     */
    private static function rings(array $sides): array
    {
        $rings = [];
        ksort($sides);
        foreach ($sides as $y => $row) {
            ksort($row);
            foreach (array_keys($row) as $x) {
                while (isset($sides[$y][$x]) && $sides[$y][$x] !== []) {
                    array_push($rings, ...self::ring($sides, $x, $y));
                }
            }
        }

        return $rings;
    }

    /**
     * Takes one ring out of the sides. Where two meet at a corner it turns left, so that quarters that meet at a corner
     * alone are apart; a hole that comes by the same corner twice is parted there.
     *
     * @param  array<int, array<int, array<int, true>>>  $sides
     * @return list<array{list<array{int, int}>, array{float, float}}>
     */
    private static function ring(array &$sides, int $x, int $y): array
    {
        $rings = [];
        $way = (int) array_key_first($sides[$y][$x]);
        /** @var list<array{int, int, int}> $walked where each side begins, and which way it goes */
        $walked = [];
        $seen = [];
        do {
            unset($sides[$y][$x][$way]);
            $seen["$x $y"] = count($walked);
            $walked[] = [$x, $y, $way];
            [$dx, $dy] = self::ALONG[$way];
            [$x, $y] = [$x + $dx, $y + $dy];
            $since = $seen["$x $y"] ?? null;
            if ($since !== null) {
                $loop = array_splice($walked, $since);
                foreach ($loop as [$goneX, $goneY]) {
                    unset($seen["$goneX $goneY"]);
                }
                $rings[] = self::closed($loop);
            }
            $next = null;
            foreach ([1, 0, 3] as $turn) {
                if (isset($sides[$y][$x][($way + $turn) % 4])) {
                    $next = ($way + $turn) % 4;
                    break;
                }
            }
            $way = $next ?? $way;
        } while ($next !== null && $walked !== []);

        return $rings;
    }

    /**
     * @param  list<array{int, int, int}>  $loop
     * @return array{list<array{int, int}>, array{float, float}}
     */
    private static function closed(array $loop): array
    {
        $corners = [];
        foreach ($loop as $i => [$x, $y, $way]) {
            if ($way !== $loop[($i + count($loop) - 1) % count($loop)][2]) {
                $corners[] = [$x, $y];
            }
        }
        $corners[] = $corners[0];
        [$x, $y, $way] = $loop[0];
        [$dx, $dy] = self::ALONG[$way];
        [$leftX, $leftY] = self::ALONG[($way + 1) % 4];

        return [$corners, [$x + ($dx + $leftX) / 2, $y + ($dy + $leftY) / 2]];
    }

    /** @param  list<array{int, int}>  $ring  closed; rows count from the north */
    private static function isOuter(array $ring): bool
    {
        $twice = 0;
        for ($i = 1, $n = count($ring); $i < $n; $i++) {
            $twice += $ring[$i][0] * $ring[$i - 1][1] - $ring[$i - 1][0] * $ring[$i][1];
        }

        return $twice > 0;
    }
}

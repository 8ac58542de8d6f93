<?php

declare(strict_types=1);

namespace PinYard\Geo;

/** Finds where a ring crosses itself; edges are taken as straight in longitude and latitude, as maps draw them. */
final class SelfCrossing
{
    /**
     * @param  list<array{float, float}>  $ring  open: the last place leads back to the first
     * @return array{float, float}|null a place where two edges cross, or a corner that stands twice
     */
    public static function in(array $ring): ?array
    {
        $n = count($ring);
        $edges = [];
        for ($i = 0; $i < $n; $i++) {
            [$a, $b] = [$ring[$i], $ring[($i + 1) % $n]];
            // Over the antimeridian the edge goes the short way.
            if ($b[0] - $a[0] > 180) {
                $b[0] -= 360;
            } elseif ($b[0] - $a[0] < -180) {
                $b[0] += 360;
            }
            $edges[] = [min($a[0], $b[0]), max($a[0], $b[0]), $a, $b, $i];
        }
        usort($edges, static fn (array $x, array $y): int => $x[0] <=> $y[0]);
        // From the west: only edges whose spans of longitude overlap can meet.
        foreach ($edges as $k => [, $east, $a, $b, $i]) {
            for ($m = $k + 1; $m < $n && $edges[$m][0] <= $east; $m++) {
                [, , $c, $d, $j] = $edges[$m];
                if (abs($i - $j) === 1 || abs($i - $j) === $n - 1) {
                    continue;
                }
                if (($at = self::meeting($a, $b, $c, $d)) !== null) {
                    return $at;
                }
            }
        }

        return null;
    }

    /**
     * @param  array{float, float}  $a
     * @param  array{float, float}  $b
     * @param  array{float, float}  $c
     * @param  array{float, float}  $d
     * @return array{float, float}|null
     */
    private static function meeting(array $a, array $b, array $c, array $d): ?array
    {
        [$d1, $d2, $d3, $d4] = [
            self::side($c, $d, $a),
            self::side($c, $d, $b),
            self::side($a, $b, $c),
            self::side($a, $b, $d),
        ];
        if ($d1 > 0 !== $d2 > 0 && $d3 > 0 !== $d4 > 0 && $d1 !== $d2) {
            $t = $d1 / ($d1 - $d2);

            return [$a[0] + $t * ($b[0] - $a[0]), $a[1] + $t * ($b[1] - $a[1])];
        }

        return $a === $c || $a === $d ? $a : ($b === $c || $b === $d ? $b : null);
    }

    /**
     * On which side of the line from p to q the place r lies: positive to the left.
     *
     * @param  array{float, float}  $p
     * @param  array{float, float}  $q
     * @param  array{float, float}  $r
     */
    private static function side(array $p, array $q, array $r): float
    {
        return ($q[0] - $p[0]) * ($r[1] - $p[1]) - ($q[1] - $p[1]) * ($r[0] - $p[0]);
    }
}

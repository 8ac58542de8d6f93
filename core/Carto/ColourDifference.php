<?php

declare(strict_types=1);

namespace PinYard\Carto;

/**
 * How far two colours look apart: CIEDE2000 (G. Sharma, W. Wu, E. N. Dalal, "The CIEDE2000 color-difference formula",
 * Color Research and Application 30, 2005), also as they are seen without one kind of cones (G. M. Machado, M. M.
 * Oliveira, L. A. F. Fernandes, IEEE TVCG 15, 2009, table 1, severity 1.0; the matrices from memory). Held against the
 * package culori in tests/units/classes.test.ts.
 */
final class ColourDifference
{
    /** Less than this is hard to tell apart on a map, where the two do not lie side by side. */
    public const CLOSE = 5.0;

    private const SEEN = [
        [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]],
        [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.011820, 0.042940, 0.968881]],
        [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.303900]],
    ];

    /**
     * The least difference, with all cones and without any one kind.
     *
     * @param  string  $one  `#RRGGBB`
     * @param  string  $other  likewise
     */
    public static function least(string $one, string $other): float
    {
        $least = self::between($one, $other);
        foreach (self::SEEN as $matrix) {
            $least = min($least, self::between(self::seen($one, $matrix), self::seen($other, $matrix)));
        }

        return $least;
    }

    public static function between(string $one, string $other): float
    {
        [$l1, $a1, $b1] = Lab::ofHex($one)->values();
        [$l2, $a2, $b2] = Lab::ofHex($other)->values();
        $c = (hypot($a1, $b1) + hypot($a2, $b2)) / 2;
        $g = 0.5 * (1 - sqrt($c ** 7 / ($c ** 7 + 25 ** 7)));
        [$a1, $a2] = [$a1 * (1 + $g), $a2 * (1 + $g)];
        [$c1, $c2] = [hypot($a1, $b1), hypot($a2, $b2)];
        $angle = static fn (float $a, float $b): float => $a == 0.0 && $b == 0.0
            ? 0.0
            : fmod(rad2deg(atan2($b, $a)) + 360, 360);
        [$h1, $h2] = [$angle($a1, $b1), $angle($a2, $b2)];
        $grey = $c1 * $c2 == 0.0;
        $dh = $grey ? 0.0 : $h2 - $h1;
        $dh = $dh > 180 ? $dh - 360 : ($dh < -180 ? $dh + 360 : $dh);
        $dH = 2 * sqrt($c1 * $c2) * sin(deg2rad($dh / 2));
        $l = ($l1 + $l2) / 2;
        $c = ($c1 + $c2) / 2;
        $h = match (true) {
            $grey => $h1 + $h2,
            abs($h1 - $h2) <= 180 => ($h1 + $h2) / 2,
            $h1 + $h2 < 360 => ($h1 + $h2 + 360) / 2,
            default => ($h1 + $h2 - 360) / 2,
        };
        $cos = static fn (float $degrees): float => cos(deg2rad($degrees));
        $t = 1 - 0.17 * $cos($h - 30) + 0.24 * $cos(2 * $h) + 0.32 * $cos(3 * $h + 6) - 0.2 * $cos(4 * $h - 63);
        $sl = 1 + (0.015 * ($l - 50) ** 2) / sqrt(20 + ($l - 50) ** 2);
        $sc = 1 + 0.045 * $c;
        $sh = 1 + 0.015 * $c * $t;
        $turn = -2 *
            sqrt($c ** 7 / ($c ** 7 + 25 ** 7)) *
            sin(deg2rad(60 * exp(-((($h - 275) / 25) ** 2))));
        [$dl, $dc, $dh] = [($l2 - $l1) / $sl, ($c2 - $c1) / $sc, $dH / $sh];

        return sqrt($dl ** 2 + $dc ** 2 + $dh ** 2 + $turn * $dc * $dh);
    }

    /** @param  array{array{float, float, float}, array{float, float, float}, array{float, float, float}}  $matrix */
    private static function seen(string $hex, array $matrix): string
    {
        $light = array_map(static function (string $pair): float {
            $c = hexdec($pair) / 255;

            return $c <= 0.04045 ? $c / 12.92 : (($c + 0.055) / 1.055) ** 2.4;
        }, str_split(ltrim($hex, '#'), 2));
        $out = '#';
        foreach ($matrix as [$r, $g, $b]) {
            $v = max(0.0, min(1.0, $r * $light[0] + $g * $light[1] + $b * $light[2]));
            $v = $v <= 0.0031308 ? 12.92 * $v : 1.055 * $v ** (1 / 2.4) - 0.055;
            $out .= sprintf('%02X', (int) round($v * 255));
        }

        return $out;
    }
}

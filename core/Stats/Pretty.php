<?php

declare(strict_types=1);

namespace PinYard\Stats;

/** Round numbers. */
final class Pretty
{
    /**
     * About so many round steps that cover a range: the algorithm of R's pretty() with its usual settings (R Core Team,
     * src/appl/pretty.c, GPL 2; the steps after its documentation).
     *
     * @return list<float>
     */
    public static function numbers(float $low, float $high, int $steps): array
    {
        $h = 1.5;
        $h5 = 0.5 + 1.5 * $h;
        $least = intdiv($steps, 3);
        $range = $high - $low;
        $cell = max(abs($low), abs($high));
        $small =
            ($range == 0.0 && $high == 0.0) ||
            $range < $cell * (1 + 1 / (1 + $h)) * max(1, $steps) * PHP_FLOAT_EPSILON * 3;
        if ($range == 0.0 && $high == 0.0) {
            $cell = 1.0;
        }
        if ($small) {
            $cell = ($cell > 10 ? 9 + $cell / 10 : $cell) * 0.75;
            $cell = $least > 1 ? $cell / $least : $cell;
        } else {
            $cell = $steps > 1 ? $range / $steps : $range;
        }
        $cell = max($cell, 1e-300);
        $base = 10.0 ** floor(log10($cell));
        $unit = $base;
        foreach ([[2, $h], [5, $h5], [10, $h]] as [$times, $bias]) {
            if ($times * $base - $cell >= $bias * ($cell - $unit)) {
                break;
            }
            $unit = $times * $base;
        }
        $from = floor($low / $unit + 1e-10);
        $to = ceil($high / $unit - 1e-10);
        $lacks = (int) ($least - ($to - $from));
        if ($lacks > 0) {
            [$down, $up] = $from >= 0
                ? [intdiv($lacks, 2) + $lacks % 2, intdiv($lacks, 2)]
                : [intdiv($lacks, 2), intdiv($lacks, 2) + $lacks % 2];
            [$from, $to] = [$from - $down, $to + $up];
        }
        $out = [];
        for ($i = $from; $i <= $to; $i++) {
            $out[] = self::clean($i * $unit, $unit);
        }

        return $out;
    }

    /** The number with the fewest digits that is more than one and not more than another, nearest to the middle. */
    public static function between(float $low, float $high): float
    {
        $middle = $low / 2 + $high / 2;
        for ($power = (int) ceil(log10(max($high - $low, 1e-290))) + 1; $power > -300; $power--) {
            foreach ([5, 2, 1] as $step) {
                $unit = $step * 10.0 ** $power;
                $at = self::clean(round($middle / $unit) * $unit, $unit);
                if ($at > $low && $at <= $high) {
                    return $at;
                }
                // Where the middle's own step lies outside, a neighbour may lie inside.
                foreach ([floor($high / $unit), floor($low / $unit) + 1] as $times) {
                    $at = self::clean($times * $unit, $unit);
                    if ($at > $low && $at <= $high) {
                        return $at;
                    }
                }
            }
            if (abs($middle) > 0 && 10.0 ** $power < abs($middle) * PHP_FLOAT_EPSILON) {
                break;
            }
        }

        return $high;
    }

    /** Without the dust of binary fractions behind the last digit that counts. */
    private static function clean(float $number, float $unit): float
    {
        $decimals = (int) max(0, min(15, 1 - floor(log10($unit))));

        return $unit < 1 ? round($number, $decimals) + 0.0 : $number + 0.0;
    }
}

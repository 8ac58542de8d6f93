<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * The Z-order number of a place: the bits of its Web Mercator x and y, interleaved (Morton 1966).
 *
 * 31 bits each, so that the number stays positive in PHP's and MariaDB's signed 64-bit integers; one step is about 19
 * mm at the equator. Latitudes beyond the Mercator square are clamped to its edge: the number is for finding rows, the
 * row's own longitude and latitude decide.
 */
final class ZOrder
{
    public const BITS = 31;

    private const SIZE = 1 << self::BITS;

    /** Latitude of the upper edge of the Web Mercator square: atan(sinh(pi)). */
    public const EDGE = 85.051128779806592;

    public static function of(Position $p): int
    {
        return self::interleave(self::x($p->lon), self::y($p->lat));
    }

    /**
     * Ranges of Z-order numbers that together cover the box, none overlapping, in order. Fewer ranges cover more than
     * the box, so rows found through them still need the box test.
     *
     * @return list<array{int, int}> first and last number of each range, both included
     */
    public static function ranges(Box $box, int $most = 24): array
    {
        $ranges = [];
        foreach ($box->parts() as $part) {
            array_push(
                $ranges,
                ...self::cover(
                    self::x($part->west),
                    self::y($part->north),
                    self::x($part->east),
                    self::y($part->south),
                    $most,
                ),
            );
        }
        sort($ranges);

        return self::join($ranges);
    }

    /** @return array{int, int} steps from the west and from the north */
    public static function steps(float $lon, float $lat): array
    {
        return [self::x($lon), self::y($lat)];
    }

    /** @return array{int, int} steps from the west and from the north of a number */
    public static function stepsOf(int $number): array
    {
        return [self::gather($number), self::gather($number >> 1)];
    }

    /** Takes every second bit: {@see spread()} the other way. */
    private static function gather(int $v): int
    {
        $v &= 0x5555555555555555;
        $v = ($v | ($v >> 1)) & 0x3333333333333333;
        $v = ($v | ($v >> 2)) & 0x0F0F0F0F0F0F0F0F;
        $v = ($v | ($v >> 4)) & 0x00FF00FF00FF00FF;
        $v = ($v | ($v >> 8)) & 0x0000FFFF0000FFFF;

        return ($v | ($v >> 16)) & 0x00000000FFFFFFFF;
    }

    /** The first number of a quarter, from the steps of its north-western corner. */
    public static function ofQuarter(int $x, int $y): int
    {
        return self::interleave($x, $y);
    }

    /**
     * @param  int  $bits  of its side in steps
     * @return array{float, float, float, float} west, south, east, north of a quarter
     */
    public static function bounds(int $x, int $y, int $bits): array
    {
        $side = 1 << $bits;
        $lat = static fn (int $y): float => rad2deg(atan(sinh(M_PI * (1 - (2 * $y) / self::SIZE))));

        return [($x / self::SIZE) * 360 - 180, $lat($y + $side), (($x + $side) / self::SIZE) * 360 - 180, $lat($y)];
    }

    private static function x(float $lon): int
    {
        return self::clamp((int) floor((($lon + 180.0) / 360.0) * self::SIZE));
    }

    private static function y(float $lat): int
    {
        $lat = max(-self::EDGE, min(self::EDGE, $lat));

        return self::clamp((int) floor(((1.0 - asinh(tan(deg2rad($lat))) / M_PI) / 2.0) * self::SIZE));
    }

    private static function clamp(int $v): int
    {
        return max(0, min(self::SIZE - 1, $v));
    }

    private static function interleave(int $x, int $y): int
    {
        return self::spread($x) | (self::spread($y) << 1);
    }

    /**
     * Puts a zero between every two bits (the "magic numbers" of Bit Twiddling Hacks, widened to 32 bits; from memory).
     */
    private static function spread(int $v): int
    {
        $v = ($v | ($v << 16)) & 0x0000FFFF0000FFFF;
        $v = ($v | ($v << 8)) & 0x00FF00FF00FF00FF;
        $v = ($v | ($v << 4)) & 0x0F0F0F0F0F0F0F0F;
        $v = ($v | ($v << 2)) & 0x3333333333333333;

        return ($v | ($v << 1)) & 0x5555555555555555;
    }

    /**
     * Splits quarters, the largest first, until the number of ranges is used up.
     *
     * @return list<array{int, int}>
     */
    private static function cover(int $x1, int $y1, int $x2, int $y2, int $most): array
    {
        $done = [];
        /** @var list<array{int, int, int}> $open corner x, corner y, side in bits; the largest first */
        $open = [[0, 0, self::BITS]];
        // A split makes at most three more of them.
        for ($i = 0; $i < count($open) && count($open) - $i + count($done) + 3 <= $most; $i++) {
            [$x, $y, $bits] = $open[$i];
            $side = 1 << $bits;
            if (($x >= $x1 && $y >= $y1 && $x + $side - 1 <= $x2 && $y + $side - 1 <= $y2) || $bits === 0) {
                $done[] = $open[$i];

                continue;
            }
            $half = $side >> 1;
            foreach ([[$x, $y], [$x + $half, $y], [$x, $y + $half], [$x + $half, $y + $half]] as [$qx, $qy]) {
                if ($qx <= $x2 && $qx + $half - 1 >= $x1 && $qy <= $y2 && $qy + $half - 1 >= $y1) {
                    $open[] = [$qx, $qy, $bits - 1];
                }
            }
        }

        return array_map(
            static function (array $cell): array {
                $first = self::interleave($cell[0], $cell[1]);

                return [$first, $first + (1 << (2 * $cell[2])) - 1];
            },
            [...$done, ...array_slice($open, $i)],
        );
    }

    /**
     * @param  list<array{int, int}>  $ranges  sorted
     * @return list<array{int, int}>
     */
    private static function join(array $ranges): array
    {
        $out = [];
        $open = array_shift($ranges);
        if ($open === null) {
            return [];
        }
        foreach ($ranges as [$first, $last]) {
            if ($first <= $open[1] + 1) {
                $open = [$open[0], max($open[1], $last)];
            } else {
                $out[] = $open;
                $open = [$first, $last];
            }
        }

        return [...$out, $open];
    }
}

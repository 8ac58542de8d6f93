<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * The series in the third flattening behind {@see Geodesic}, to the sixth order: A1, A2, A3, C1, C2, C3, C4
 * (C. F. F. Karney, "Algorithms for geodesics", J. Geodesy 87, 2013, eqs. 17 to 25 and 63; coefficients as in
 * GeographicLib 2, MIT licence).
 *
 * @internal
 */
final class GeodesicSeries
{
    private const A1 = [1, 4, 64, 0, 256];

    private const A2 = [-11, -28, -192, 0, 256];

    private const A3 = [-3, 128, -2, -3, 64, -1, -3, -1, 16, 3, -1, -2, 8, 1, -1, 2, 1, 1];

    private const C1 = [-1, 6, -16, 32, -9, 64, -128, 2048, 9, -16, 768, 3, -5, 512, -7, 1280, -7, 2048];

    private const C2 = [1, 2, 16, 32, 35, 64, 384, 2048, 15, 80, 768, 7, 35, 512, 63, 1280, 77, 2048];

    private const C3 = [
        3,
        128,
        2,
        5,
        128,
        -1,
        3,
        3,
        64,
        -1,
        0,
        1,
        8,
        -1,
        1,
        4,
        5,
        256,
        1,
        3,
        128,
        -3,
        -2,
        3,
        64,
        1,
        -3,
        2,
        32,
        7,
        512,
        -10,
        9,
        384,
        5,
        -9,
        5,
        192,
        7,
        512,
        -14,
        7,
        512,
        21,
        2560,
    ];

    private const C4 = [
        97,
        15015,
        1088,
        156,
        45045,
        -224,
        -4784,
        1573,
        45045,
        -10656,
        14144,
        -4576,
        -858,
        45045,
        64,
        624,
        -4576,
        6864,
        -3003,
        15015,
        100,
        208,
        572,
        3432,
        -12012,
        30030,
        45045,
        1,
        9009,
        -2944,
        468,
        135135,
        5792,
        1040,
        -1287,
        135135,
        5952,
        -11648,
        9152,
        -2574,
        135135,
        -64,
        -624,
        4576,
        -6864,
        3003,
        135135,
        8,
        10725,
        1856,
        -936,
        225225,
        -8448,
        4992,
        -1144,
        225225,
        -1440,
        4160,
        -4576,
        1716,
        225225,
        -136,
        63063,
        1024,
        -208,
        105105,
        3584,
        -3328,
        1144,
        315315,
        -128,
        135135,
        -2560,
        832,
        405405,
        128,
        99099,
    ];

    /** @var list<float> A3 as a polynomial in eps, highest power first */
    private array $a3 = [];

    /** @var list<float> */
    private array $c3 = [];

    /** @var list<float> */
    private array $c4 = [];

    /** @param  float  $n  third flattening */
    public function __construct(float $n)
    {
        for ($o = 0, $j = 5; $j >= 0; $j--) {
            $p = min(5 - $j, $j);
            $this->a3[] = self::quotient($p, self::A3, $o, $n);
            $o += $p + 2;
        }
        for ($o = 0, $l = 1; $l < 6; $l++) {
            for ($j = 5; $j >= $l; $j--) {
                $p = min(5 - $j, $j);
                $this->c3[] = self::quotient($p, self::C3, $o, $n);
                $o += $p + 2;
            }
        }
        for ($o = 0, $l = 0; $l < 6; $l++) {
            for ($j = 5; $j >= $l; $j--) {
                $p = 5 - $j;
                $this->c4[] = self::quotient($p, self::C4, $o, $n);
                $o += $p + 2;
            }
        }
    }

    public static function a1(float $eps): float
    {
        return (self::polynomial(3, self::A1, 0, $eps * $eps) / 256 + $eps) / (1 - $eps);
    }

    public static function a2(float $eps): float
    {
        return (self::polynomial(3, self::A2, 0, $eps * $eps) / 256 - $eps) / (1 + $eps);
    }

    public function a3(float $eps): float
    {
        return self::polynomial(5, $this->a3, 0, $eps);
    }

    /** @return list<float> the first is unused, so that the index is the order */
    public static function c1(float $eps): array
    {
        return self::even(self::C1, $eps);
    }

    /** @return list<float> */
    public static function c2(float $eps): array
    {
        return self::even(self::C2, $eps);
    }

    /** @return list<float> */
    public function c3(float $eps): array
    {
        $c = [0.0];
        for ($power = 1.0, $o = 0, $l = 1; $l < 6; $l++) {
            $p = 5 - $l;
            $power *= $eps;
            $c[] = $power * self::polynomial($p, $this->c3, $o, $eps);
            $o += $p + 1;
        }

        return $c;
    }

    /** @return list<float> from the order 0 on */
    public function c4(float $eps): array
    {
        $c = [];
        for ($power = 1.0, $o = 0, $l = 0; $l < 6; $l++) {
            $p = 5 - $l;
            $c[] = $power * self::polynomial($p, $this->c4, $o, $eps);
            $o += $p + 1;
            $power *= $eps;
        }

        return $c;
    }

    /**
     * Clenshaw's sum of a series of sines of even multiples (the first coefficient unused), or of cosines of odd ones.
     *
     * @param  list<float>  $c
     */
    public static function sum(bool $sines, float $sin, float $cos, array $c): float
    {
        $k = count($c);
        $n = $k - ($sines ? 1 : 0);
        $twice = 2 * ($cos - $sin) * ($cos + $sin);
        $y0 = $n % 2 === 1 ? $c[--$k] : 0.0;
        $y1 = 0.0;
        for ($n = intdiv($n, 2); $n > 0; $n--) {
            $y1 = $twice * $y0 - $y1 + $c[--$k];
            $y0 = $twice * $y1 - $y0 + $c[--$k];
        }

        return $sines ? 2 * $sin * $cos * $y0 : $cos * ($y0 - $y1);
    }

    /**
     * @param  list<int>  $coefficients
     * @return list<float>
     */
    private static function even(array $coefficients, float $eps): array
    {
        $c = [0.0];
        for ($power = $eps, $o = 0, $l = 1; $l <= 6; $l++) {
            $p = intdiv(6 - $l, 2);
            $c[] = $power * self::quotient($p, $coefficients, $o, $eps * $eps);
            $o += $p + 2;
            $power *= $eps;
        }

        return $c;
    }

    /**
     * A polynomial whose common denominator stands behind it.
     *
     * @param  list<int>  $p
     */
    private static function quotient(int $order, array $p, int $from, float $x): float
    {
        return self::polynomial($order, $p, $from, $x) / $p[$from + $order + 1];
    }

    /** @param  list<int|float>  $p */
    private static function polynomial(int $order, array $p, int $from, float $x): float
    {
        $y = (float) $p[$from];
        for ($i = 1; $i <= $order; $i++) {
            $y = $y * $x + $p[$from + $i];
        }

        return $y;
    }
}

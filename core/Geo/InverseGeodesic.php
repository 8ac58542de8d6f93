<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * The shortest line between two places on the WGS 84 ellipsoid (the inverse problem): its length, and the area between
 * it and the equator, to nanometres and to a tenth of a square metre.
 *
 * C. F. F. Karney, "Algorithms for geodesics", J. Geodesy 87 (2013) 43-55; the steps follow GeographicLib 2 (MIT
 * licence). The phone uses the npm package geographiclib-geodesic; both are checked against GeodSolve and Planimeter.
 */
final class InverseGeodesic
{
    private const A = Lambert::RADIUS;

    private const F = Lambert::FLATTENING;

    private const TINY = 1.4916681462400413e-154;

    private const TOL0 = PHP_FLOAT_EPSILON;

    private const TOL1 = 200 * self::TOL0;

    private const TOL2 = 1.4901161193847656e-8;

    private const NEWTON_STEPS = 20;

    private const MOST_STEPS = 83;

    private static ?self $wgs84 = null;

    private readonly GeodesicSeries $series;

    private readonly float $f1;

    private readonly float $e2;

    private readonly float $ep2;

    private readonly float $n;

    private readonly float $b;

    /** Square of the authalic radius. */
    public readonly float $c2;

    private readonly float $etol2;

    private function __construct()
    {
        $this->f1 = 1 - self::F;
        $this->e2 = self::F * (2 - self::F);
        $this->ep2 = $this->e2 / $this->f1 ** 2;
        $this->n = self::F / (2 - self::F);
        $this->b = self::A * $this->f1;
        $this->c2 = (self::A ** 2 + ($this->b ** 2 * atanh(sqrt($this->e2))) / sqrt($this->e2)) / 2;
        $this->etol2 = (0.1 * self::TOL2) / sqrt((max(0.001, self::F) * min(1.0, 1 - self::F / 2)) / 2);
        $this->series = new GeodesicSeries($this->n);
    }

    /** Made once: its series are worked out with it. */
    public static function wgs84(): self
    {
        return self::$wgs84 ??= new self;
    }

    /**
     * Between two places given in degrees.
     *
     * @return array{float, float} metres, and square metres between the geodesic and the equator
     */
    public function between(float $lat1, float $lon1, float $lat2, float $lon2): array
    {
        [$lon12, $lon12s] = Angles::difference($lon1, $lon2);
        $lonSign = Angles::sign($lon12);
        [$lon12, $lon12s] = [$lon12 * $lonSign, $lon12s * $lonSign];
        $lam12 = deg2rad($lon12);
        [$slam12, $clam12] = Angles::sinCos($lon12, $lon12s);
        $lon12s = 180 - $lon12 - $lon12s;
        // Put the place that lies farther from the equator first, and south.
        $swap = abs($lat1) < abs($lat2) ? -1 : 1;
        if ($swap < 0) {
            $lonSign *= -1;
            [$lat1, $lat2] = [$lat2, $lat1];
        }
        $latSign = Angles::sign(-$lat1);
        [$lat1, $lat2] = [$lat1 * $latSign, $lat2 * $latSign];
        [$sbet1, $cbet1] = $this->reduced($lat1);
        [$sbet2, $cbet2] = $this->reduced($lat2);
        if ($cbet1 < -$sbet1) {
            if ($cbet2 === $cbet1) {
                $sbet2 = abs($sbet1) * Angles::sign($sbet2);
            }
        } elseif (abs($sbet2) === -$sbet1) {
            $cbet2 = $cbet1;
        }
        $dn1 = sqrt(1 + $this->ep2 * $sbet1 ** 2);
        $dn2 = sqrt(1 + $this->ep2 * $sbet2 ** 2);
        $s12 = 0.0;
        $omg12 = 0.0;
        $somg12 = 2.0;
        $comg12 = 0.0;
        [$salp1, $calp1, $salp2, $calp2] = [0.0, 0.0, 0.0, 0.0];
        $meridian = $lat1 === -90.0 || $slam12 == 0.0;
        if ($meridian) {
            [$calp1, $salp1, $calp2, $salp2] = [$clam12, $slam12, 1.0, 0.0];
            [$ssig1, $csig1, $ssig2, $csig2] = [$sbet1, $calp1 * $cbet1, $sbet2, $calp2 * $cbet2];
            $sig12 = atan2(max(0.0, $csig1 * $ssig2 - $ssig1 * $csig2), $csig1 * $csig2 + $ssig1 * $ssig2);
            [$s, $m] = $this->lengths($this->n, $sig12, $ssig1, $csig1, $dn1, $ssig2, $csig2, $dn2);
            if ($sig12 < self::TOL2 || $m >= 0) {
                $s12 = $sig12 < 3 * self::TINY || ($sig12 < self::TOL0 && ($s < 0 || $m < 0)) ? 0.0 : $s * $this->b;
            } else {
                // The meridian is not the shortest way: nearly opposite places.
                $meridian = false;
            }
        }
        if (! $meridian && $sbet1 == 0.0 && $lon12s >= self::F * 180) {
            [$calp1, $calp2, $salp1, $salp2] = [0.0, 0.0, 1.0, 1.0];
            $s12 = self::A * $lam12;
            $omg12 = $lam12 / $this->f1;
        } elseif (! $meridian) {
            [$sig12, $salp1, $calp1, $salp2, $calp2, $dnm] = $this->start(
                $sbet1,
                $cbet1,
                $sbet2,
                $cbet2,
                $lam12,
                $slam12,
                $clam12,
            );
            if ($sig12 >= 0) {
                $s12 = $sig12 * $this->b * $dnm;
                $omg12 = $lam12 / ($this->f1 * $dnm);
            } else {
                [$s12, $salp1, $calp1, $salp2, $calp2, $domg12] = $this->newton(
                    $sbet1,
                    $cbet1,
                    $dn1,
                    $sbet2,
                    $cbet2,
                    $dn2,
                    $salp1,
                    $calp1,
                    $slam12,
                    $clam12,
                );
                [$sd, $cd] = [sin($domg12), cos($domg12)];
                $somg12 = $slam12 * $cd - $clam12 * $sd;
                $comg12 = $clam12 * $cd + $slam12 * $sd;
            }
        }

        return [
            $s12,
            $this->under(
                $sbet1,
                $cbet1,
                $salp1,
                $calp1,
                $sbet2,
                $cbet2,
                $salp2,
                $calp2,
                $meridian,
                $omg12,
                $somg12,
                $comg12,
            ) *
            $swap *
            $lonSign *
            $latSign,
        ];
    }

    /** Area of the quadrilateral under the geodesic, for ordered places. */
    private function under(
        float $sbet1,
        float $cbet1,
        float $salp1,
        float $calp1,
        float $sbet2,
        float $cbet2,
        float $salp2,
        float $calp2,
        bool $meridian,
        float $omg12,
        float $somg12,
        float $comg12,
    ): float {
        $salp0 = $salp1 * $cbet1;
        $calp0 = sqrt($calp1 ** 2 + ($salp1 * $sbet1) ** 2);
        $area = 0.0;
        if ($calp0 != 0.0 && $salp0 != 0.0) {
            $k2 = $calp0 ** 2 * $this->ep2;
            $c4 = $this->series->c4($k2 / (2 * (1 + sqrt(1 + $k2)) + $k2));
            [$ssig1, $csig1] = Angles::unit($sbet1, $calp1 * $cbet1);
            [$ssig2, $csig2] = Angles::unit($sbet2, $calp2 * $cbet2);
            $area =
                self::A ** 2 *
                $calp0 *
                $salp0 *
                $this->e2 *
                (GeodesicSeries::sum(false, $ssig2, $csig2, $c4) - GeodesicSeries::sum(false, $ssig1, $csig1, $c4));
        }
        if (! $meridian && $somg12 == 2.0) {
            [$somg12, $comg12] = [sin($omg12), cos($omg12)];
        }
        if (! $meridian && $comg12 > -0.7071 && $sbet2 - $sbet1 < 1.75) {
            [$d, $d1, $d2] = [1 + $comg12, 1 + $cbet1, 1 + $cbet2];
            $alp12 = 2 * atan2($somg12 * ($sbet1 * $d2 + $sbet2 * $d1), $d * ($sbet1 * $sbet2 + $d1 * $d2));
        } else {
            $s = $salp2 * $calp1 - $calp2 * $salp1;
            $c = $calp2 * $calp1 + $salp2 * $salp1;
            if ($s == 0.0 && $c < 0) {
                [$s, $c] = [self::TINY * $calp1, -1.0];
            }
            $alp12 = atan2($s, $c);
        }

        return $area + $this->c2 * $alp12;
    }

    /** @return array{float, float} distance and reduced length, each over b */
    private function lengths(
        float $eps,
        float $sig12,
        float $ssig1,
        float $csig1,
        float $dn1,
        float $ssig2,
        float $csig2,
        float $dn2,
    ): array {
        [$a1, $a2] = [GeodesicSeries::a1($eps), GeodesicSeries::a2($eps)];
        [$c1, $c2] = [GeodesicSeries::c1($eps), GeodesicSeries::c2($eps)];
        $b1 = GeodesicSeries::sum(true, $ssig2, $csig2, $c1) - GeodesicSeries::sum(true, $ssig1, $csig1, $c1);
        $b2 = GeodesicSeries::sum(true, $ssig2, $csig2, $c2) - GeodesicSeries::sum(true, $ssig1, $csig1, $c2);
        $j12 = ($a1 - $a2) * $sig12 + ((1 + $a1) * $b1 - (1 + $a2) * $b2);

        return [
            (1 + $a1) * ($sig12 + $b1),
            $dn2 * ($csig1 * $ssig2) - $dn1 * ($ssig1 * $csig2) - $csig1 * $csig2 * $j12,
        ];
    }

    /**
     * A first azimuth, or the whole answer for short lines (`sig12` is then not negative).
     *
     * @return array{float, float, float, float, float, float} sig12, salp1, calp1, salp2, calp2, dnm
     */
    private function start(
        float $sbet1,
        float $cbet1,
        float $sbet2,
        float $cbet2,
        float $lam12,
        float $slam12,
        float $clam12,
    ): array {
        $sbet12 = $sbet2 * $cbet1 - $cbet2 * $sbet1;
        $cbet12 = $cbet2 * $cbet1 + $sbet2 * $sbet1;
        $sbet12a = $sbet2 * $cbet1 + $cbet2 * $sbet1;
        $short = $cbet12 >= 0 && $sbet12 < 0.5 && $cbet2 * $lam12 < 0.5;
        $dnm = 1.0;
        [$somg12, $comg12] = [$slam12, $clam12];
        if ($short) {
            $sbetm2 = ($sbet1 + $sbet2) ** 2;
            $sbetm2 /= $sbetm2 + ($cbet1 + $cbet2) ** 2;
            $dnm = sqrt(1 + $this->ep2 * $sbetm2);
            $omg12 = $lam12 / ($this->f1 * $dnm);
            [$somg12, $comg12] = [sin($omg12), cos($omg12)];
        }
        $salp1 = $cbet2 * $somg12;
        $calp1 =
            $comg12 >= 0
                ? $sbet12 + ($cbet2 * $sbet1 * $somg12 ** 2) / (1 + $comg12)
                : $sbet12a - ($cbet2 * $sbet1 * $somg12 ** 2) / (1 - $comg12);
        $ssig12 = sqrt($salp1 ** 2 + $calp1 ** 2);
        $csig12 = $sbet1 * $sbet2 + $cbet1 * $cbet2 * $comg12;
        [$sig12, $salp2, $calp2] = [-1.0, 0.0, 0.0];
        if ($short && $ssig12 < $this->etol2) {
            [$salp2, $calp2] = Angles::unit(
                $cbet1 * $somg12,
                $sbet12 - $cbet1 * $sbet2 * ($comg12 >= 0 ? $somg12 ** 2 / (1 + $comg12) : 1 - $comg12),
            );
            $sig12 = atan2($ssig12, $csig12);
        } elseif (! ($csig12 >= 0 || $ssig12 >= 6 * abs($this->n) * M_PI * $cbet1 ** 2)) {
            // Nearly opposite places: the astroid of Karney's section 5.
            $k2 = $sbet1 ** 2 * $this->ep2;
            $lamScale = self::F * $cbet1 * $this->series->a3($k2 / (2 * (1 + sqrt(1 + $k2)) + $k2)) * M_PI;
            $x = atan2(-$slam12, -$clam12) / $lamScale;
            $y = $sbet12a / ($lamScale * $cbet1);
            if ($y > -self::TOL1 && $x > -1 - 1000 * self::TOL2) {
                $salp1 = min(1.0, -$x);
                $calp1 = -sqrt(1 - $salp1 ** 2);
            } else {
                $k = self::astroid($x, $y);
                $omg12a = $lamScale * ((-$x * $k) / (1 + $k));
                [$somg12, $comg12] = [sin($omg12a), -cos($omg12a)];
                $salp1 = $cbet2 * $somg12;
                $calp1 = $sbet12a - ($cbet2 * $sbet1 * $somg12 ** 2) / (1 - $comg12);
            }
        }
        [$salp1, $calp1] = $salp1 > 0 ? Angles::unit($salp1, $calp1) : [1.0, 0.0];

        return [$sig12, $salp1, $calp1, $salp2, $calp2, $dnm];
    }

    /**
     * Newton's method for the azimuth, kept between two bounds.
     *
     * @return array{float, float, float, float, float, float} metres, salp1, calp1, salp2, calp2, domg12
     */
    private function newton(
        float $sbet1,
        float $cbet1,
        float $dn1,
        float $sbet2,
        float $cbet2,
        float $dn2,
        float $salp1,
        float $calp1,
        float $slam12,
        float $clam12,
    ): array {
        [$salp1a, $calp1a, $salp1b, $calp1b] = [self::TINY, 1.0, self::TINY, -1.0];
        $almost = $halved = false;
        for ($step = 0; ; $step++) {
            $at = $this->lambda($sbet1, $cbet1, $dn1, $sbet2, $cbet2, $dn2, $salp1, $calp1, $slam12, $clam12);
            [$v, $salp2, $calp2, $sig12, $ssig1, $csig1, $ssig2, $csig2, $eps, $domg12, $dv] = $at;
            if ($halved || ! (abs($v) >= ($almost ? 8 : 1) * self::TOL0) || $step === self::MOST_STEPS) {
                break;
            }
            if ($v > 0 && ($step < self::NEWTON_STEPS || $calp1 / $salp1 > $calp1b / $salp1b)) {
                [$salp1b, $calp1b] = [$salp1, $calp1];
            } elseif ($v < 0 && ($step < self::NEWTON_STEPS || $calp1 / $salp1 < $calp1a / $salp1a)) {
                [$salp1a, $calp1a] = [$salp1, $calp1];
            }
            if ($step < self::NEWTON_STEPS && $dv > 0 && abs($by = -$v / $dv) < M_PI) {
                [$s, $c] = [sin($by), cos($by)];
                $next = $salp1 * $c + $calp1 * $s;
                if ($next > 0) {
                    [$salp1, $calp1] = Angles::unit($next, $calp1 * $c - $salp1 * $s);
                    $almost = abs($v) <= 16 * self::TOL0;

                    continue;
                }
            }
            [$salp1, $calp1] = Angles::unit(($salp1a + $salp1b) / 2, ($calp1a + $calp1b) / 2);
            $almost = false;
            $halved =
                abs($salp1a - $salp1) + ($calp1a - $calp1) < self::TOL0 ||
                abs($salp1 - $salp1b) + ($calp1 - $calp1b) < self::TOL0;
        }
        [$s] = $this->lengths($eps, $sig12, $ssig1, $csig1, $dn1, $ssig2, $csig2, $dn2);

        return [$s * $this->b, $salp1, $calp1, $salp2, $calp2, $domg12];
    }

    /**
     * @return array{float, float, float, float, float, float, float, float, float, float, float} lam12, salp2, calp2,
     *     sig12, ssig1, csig1, ssig2, csig2, eps, domg12, dlam12
     */
    private function lambda(
        float $sbet1,
        float $cbet1,
        float $dn1,
        float $sbet2,
        float $cbet2,
        float $dn2,
        float $salp1,
        float $calp1,
        float $slam12,
        float $clam12,
    ): array {
        if ($sbet1 == 0.0 && $calp1 == 0.0) {
            $calp1 = -self::TINY;
        }
        $salp0 = $salp1 * $cbet1;
        $calp0 = sqrt($calp1 ** 2 + ($salp1 * $sbet1) ** 2);
        [$somg1, $comg1] = [$salp0 * $sbet1, $calp1 * $cbet1];
        [$ssig1, $csig1] = Angles::unit($sbet1, $comg1);
        $salp2 = $cbet2 !== $cbet1 ? $salp0 / $cbet2 : $salp1;
        $calp2 =
            $cbet2 !== $cbet1 || abs($sbet2) !== -$sbet1
                ? sqrt(
                    ($calp1 * $cbet1) ** 2 +
                        ($cbet1 < -$sbet1
                            ? ($cbet2 - $cbet1) * ($cbet1 + $cbet2)
                            : ($sbet1 - $sbet2) * ($sbet1 + $sbet2)),
                ) / $cbet2
                : abs($calp1);
        [$somg2, $comg2] = [$salp0 * $sbet2, $calp2 * $cbet2];
        [$ssig2, $csig2] = Angles::unit($sbet2, $comg2);
        $sig12 = atan2(max(0.0, $csig1 * $ssig2 - $ssig1 * $csig2), $csig1 * $csig2 + $ssig1 * $ssig2);
        $somg12 = max(0.0, $comg1 * $somg2 - $somg1 * $comg2);
        $comg12 = $comg1 * $comg2 + $somg1 * $somg2;
        $eta = atan2($somg12 * $clam12 - $comg12 * $slam12, $comg12 * $clam12 + $somg12 * $slam12);
        $k2 = $calp0 ** 2 * $this->ep2;
        $eps = $k2 / (2 * (1 + sqrt(1 + $k2)) + $k2);
        $c3 = $this->series->c3($eps);
        $b312 = GeodesicSeries::sum(true, $ssig2, $csig2, $c3) - GeodesicSeries::sum(true, $ssig1, $csig1, $c3);
        $domg12 = -self::F * $this->series->a3($eps) * $salp0 * ($sig12 + $b312);
        $slope =
            $calp2 == 0.0
                ? (-2 * $this->f1 * $dn1) / $sbet1
                : ($this->lengths($eps, $sig12, $ssig1, $csig1, $dn1, $ssig2, $csig2, $dn2)[1] * $this->f1) /
                    ($calp2 * $cbet2);

        return [$eta + $domg12, $salp2, $calp2, $sig12, $ssig1, $csig1, $ssig2, $csig2, $eps, $domg12, $slope];
    }

    /** The positive root of k^4 + 2 k^3 - (x^2 + y^2 - 1) k^2 - 2 y^2 k - y^2 = 0. */
    private static function astroid(float $x, float $y): float
    {
        [$p, $q] = [$x * $x, $y * $y];
        $r = ($p + $q - 1) / 6;
        if ($q == 0.0 && $r <= 0) {
            return 0.0;
        }
        $s = ($p * $q) / 4;
        $r3 = $r ** 3;
        $disc = $s * ($s + 2 * $r3);
        $u = $r;
        if ($disc >= 0) {
            $t3 = $s + $r3;
            $t3 += $t3 < 0 ? -sqrt($disc) : sqrt($disc);
            $t = ($t3 < 0 ? -1 : 1) * abs($t3) ** (1 / 3);
            $u += $t + ($t != 0.0 ? ($r * $r) / $t : 0.0);
        } else {
            $u += 2 * $r * cos(atan2(sqrt(-$disc), -($s + $r3)) / 3);
        }
        $v = sqrt($u * $u + $q);
        $uv = $u < 0 ? $q / ($v - $u) : $u + $v;
        $w = ($uv - $q) / (2 * $v);

        return $uv / (sqrt($uv + $w * $w) + $w);
    }

    /** @return array{float, float} sine and cosine of the reduced latitude */
    private function reduced(float $lat): array
    {
        [$s, $c] = Angles::sinCos(Angles::rounded($lat), 0.0);
        [$s, $c] = Angles::unit($this->f1 * $s, $c);

        return [$s, max(self::TINY, $c)];
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Device;

use PinYard\Geo\Geodesic;
use PinYard\Geo\Longitude;

/**
 * How far and how long somebody walked, by the points of their trail. Between two points that lie too far apart in time
 * or place nobody knows where they were: that is a gap, and not walked.
 */
final class Walk
{
    /** Seconds after which a trail begins anew. */
    public const PAUSE = 900;

    /** Degrees of longitude and latitude together beyond which it does. */
    public const JUMP = 0.05;

    /** Metres: a point that is no better known says nothing of a way on foot (common practice, no source). */
    private const VAGUE = 100.0;

    /**
     * Steps of one device from one point to the next, gaps left out.
     *
     * @param  iterable<array{float, float, float, float|null}>  $points  seconds since 1970, longitude, latitude,
     *     accuracy in metres; in the order of time
     * @return list<array{float, float, float, float, float}> from, to, metres (geodesic, on WGS 84), longitude and
     *     latitude half way
     */
    public static function steps(iterable $points): array
    {
        $steps = [];
        $last = null;
        foreach ($points as [$at, $lon, $lat, $accuracy]) {
            if ($accuracy !== null && $accuracy > self::VAGUE) {
                continue;
            }
            if ($last !== null && ! self::isGap($last, $at, $lon, $lat)) {
                $half = $last[1] + Longitude::eastward($last[1], $lon) / 2;
                $steps[] = [
                    $last[0],
                    $at,
                    Geodesic::metres($last[1], $last[2], $lon, $lat),
                    $half > 180 ? $half - 360 : ($half < -180 ? $half + 360 : $half),
                    ($last[2] + $lat) / 2,
                ];
            }
            $last = [$at, $lon, $lat];
        }

        return $steps;
    }

    /**
     * The pieces of a way of one device, gaps left out.
     *
     * @param  iterable<array{float, float, float, float|null}>  $points  as for {@see steps()}
     * @return \Generator<array{float, float, float, float}> longitude and latitude where each begins and ends
     */
    public static function pieces(iterable $points): \Generator
    {
        $last = null;
        foreach ($points as [$at, $lon, $lat, $accuracy]) {
            if ($accuracy !== null && $accuracy > self::VAGUE) {
                continue;
            }
            if ($last !== null && ! self::isGap($last, $at, $lon, $lat)) {
                yield [$last[1], $last[2], $lon, $lat];
            }
            $last = [$at, $lon, $lat];
        }
    }

    /** @param  array{float, float, float}  $last */
    private static function isGap(array $last, float $at, float $lon, float $lat): bool
    {
        $across = abs($lon - $last[1]);

        // Over the antimeridian the way is the short one.
        return $at - $last[0] > self::PAUSE || min($across, 360 - $across) + abs($lat - $last[2]) > self::JUMP;
    }

    /**
     * The steps of one person with all their devices: of two that were carried at once those of one are counted, of the
     * one with the longer way.
     *
     * @template T of array{float, float, float, ...<float>}
     *
     * @param  list<list<T>>  $devices  the steps of each
     * @return list<T>
     */
    public static function counted(array $devices): array
    {
        usort($devices, static fn (array $a, array $b): int => array_sum(array_column($b, 2)) <=> array_sum(
            array_column($a, 2),
        ));
        $counted = $taken = [];
        foreach ($devices as $steps) {
            $mine = [];
            foreach ($steps as $step) {
                if (! self::overlaps($taken, $step[0], $step[1])) {
                    $counted[] = $step;
                    $mine[] = [$step[0], $step[1]];
                }
            }
            array_push($taken, ...self::joined($mine));
        }

        return $counted;
    }

    /**
     * What one person walked with all their devices.
     *
     * @param  list<list<array{float, float, float, ...<float>}>>  $devices  the steps of each
     * @return array{float, float} metres and seconds
     */
    public static function total(array $devices): array
    {
        $metres = $seconds = 0.0;
        foreach (self::counted($devices) as [$from, $to, $way]) {
            $metres += $way;
            $seconds += $to - $from;
        }

        return [$metres, $seconds];
    }

    /** @param  list<array{float, float}>  $spans */
    private static function overlaps(array $spans, float $from, float $to): bool
    {
        foreach ($spans as [$begin, $end]) {
            if ($from < $end && $begin < $to) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param  list<array{float, float}>  $spans  in order
     * @return list<array{float, float}> those that follow each other as one
     */
    private static function joined(array $spans): array
    {
        $joined = [];
        foreach ($spans as $span) {
            $last = count($joined) - 1;
            if ($last >= 0 && $joined[$last][1] === $span[0]) {
                $joined[$last][1] = $span[1];
            } else {
                $joined[] = $span;
            }
        }

        return $joined;
    }
}

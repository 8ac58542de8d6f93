<?php

declare(strict_types=1);

namespace PinYard\Stats;

/**
 * Where classes of numbers part. A break belongs to the class above it: below the first break is the first class, from
 * each break up to the next another one.
 */
final class Classes
{
    public const MOST = 9;

    /**
     * @param  int  $count  wanted; fewer come out where there are fewer different values
     * @return list<float> ascending breaks between the classes, one fewer than there are classes
     */
    public static function breaks(Spread $spread, Method $method, int $count): array
    {
        $count = max(1, min(self::MOST, $count, $spread->distinct()));
        if ($count < 2) {
            return [];
        }
        $wanted = match ($method) {
            Method::Natural, Method::Hand => self::natural($spread, $count),
            Method::Quantile => array_map(
                static fn (int $i): float => $spread->quantile($i / $count),
                range(1, $count - 1),
            ),
            Method::Equal => array_map(
                static fn (int $i): float => $spread->least() +
                    $i * ($spread->most() - $spread->least()) / $count,
                range(1, $count - 1),
            ),
            Method::Deviation => self::deviations($spread, $count),
            Method::Round => Pretty::numbers($spread->least(), $spread->most(), $count),
        };

        // Steps of the method itself may have nothing in one of them; where values part by themselves none may.
        return match ($method) {
            Method::Round => self::inside($spread, $wanted),
            Method::Equal, Method::Deviation => self::rounded($spread, self::inside($spread, $wanted), true),
            default => self::rounded($spread, $wanted, false),
        };
    }

    /** @param  list<float>  $breaks  ascending */
    public static function indexOf(array $breaks, float $value): int
    {
        $i = 0;
        while (isset($breaks[$i]) && $value >= $breaks[$i]) {
            $i++;
        }

        return $i;
    }

    /**
     * Sum of squared distances of all values from the means of their classes: what natural breaks make least.
     *
     * @param  list<float>  $breaks
     */
    public static function loss(Spread $spread, array $breaks): float
    {
        $number = $sum = $square = array_fill(0, count($breaks) + 1, 0.0);
        // Counted from the mean of all, so that large numbers that lie close together keep their digits.
        foreach ($spread->groups as [, , $mean, $n, $within]) {
            $i = self::indexOf($breaks, $mean);
            $d = $mean - $spread->mean;
            $number[$i] += $n;
            $sum[$i] += $n * $d;
            $square[$i] += $n * $d * $d + $within;
        }

        return array_sum(array_map(
            static fn (float $n, float $s, float $q): float => $n === 0.0 ? 0.0 : max(0.0, $q - $s ** 2 / $n),
            $number,
            $sum,
            $square,
        ));
    }

    /**
     * Optimal classes of ordered values (Fisher, "On grouping for maximum homogeneity", JASA 53, 1958), by dynamic
     * programming; where the best last class begins moves only upwards with the values, so each row is filled by halves
     * (as in Ckmeans.1d.dp, Wang and Song 2011).
     *
     * @return list<float> middles between the classes
     */
    private static function natural(Spread $spread, int $count): array
    {
        $n = count($spread->groups);
        $weight = $sum = $square = [0.0];
        foreach ($spread->groups as $i => [, , $mean, $number, $within]) {
            $d = $mean - $spread->mean;
            $weight[] = $weight[$i] + $number;
            $sum[] = $sum[$i] + $number * $d;
            $square[] = $square[$i] + $number * $d * $d + $within;
        }
        $best = [0.0];
        for ($i = 1; $i <= $n; $i++) {
            $best[$i] = $square[$i] - $sum[$i] ** 2 / $weight[$i];
        }
        $begins = [];
        for ($k = 2; $k <= $count; $k++) {
            $next = array_fill(0, $n + 1, INF);
            $begin = array_fill(0, $n + 1, 0);
            $spans = [[$k, $n, $k - 1, $n - 1]];
            while ($spans !== []) {
                [$low, $high, $from, $to] = array_pop($spans);
                if ($low > $high) {
                    continue;
                }
                $middle = intdiv($low + $high, 2);
                [$w, $s] = [$weight[$middle], $sum[$middle]];
                $whole = $square[$middle];
                for ($j = $from, $end = min($to, $middle - 1); $j <= $end; $j++) {
                    // What the groups from this one up to the middle lose in a class of their own.
                    $c = $best[$j] + $whole - $square[$j] - ($s - $sum[$j]) ** 2 / ($w - $weight[$j]);
                    if ($c < $next[$middle]) {
                        $next[$middle] = $c;
                        $begin[$middle] = $j;
                    }
                }
                $spans[] = [$low, $middle - 1, $from, $begin[$middle]];
                $spans[] = [$middle + 1, $high, $begin[$middle], $to];
            }
            $best = $next;
            $begins[$k] = $begin;
        }
        $breaks = [];
        for ($k = $count, $end = $n; $k >= 2; $k--) {
            $end = $begins[$k][$end];
            array_unshift($breaks, ($spread->groups[$end - 1][1] + $spread->groups[$end][0]) / 2);
        }

        return $breaks;
    }

    /** @return list<float> */
    private static function deviations(Spread $spread, int $count): array
    {
        if ($spread->deviation <= 0) {
            return [];
        }
        $score = static fn (float $value): float => ($value - $spread->mean) / $spread->deviation;

        return array_map(
            static fn (float $z): float => $z * $spread->deviation + $spread->mean,
            Pretty::numbers($score($spread->least()), $score($spread->most()), $count),
        );
    }

    /**
     * @param  list<float>  $breaks
     * @return list<float> those that have values on both sides
     */
    private static function inside(Spread $spread, array $breaks): array
    {
        return array_values(array_filter(
            $breaks,
            static fn (float $b): bool => $b > $spread->least() && $b < $spread->most(),
        ));
    }

    /**
     * The same classes by rounder numbers: each break as round as it can be between the values that it parts.
     *
     * @param  list<float>  $wanted
     * @param  bool  $near  whether it must stay near the place that was reckoned, also in a wide gap
     * @return list<float> none twice
     */
    private static function rounded(Spread $spread, array $wanted, bool $near): array
    {
        $reach = ($spread->most() - $spread->least()) / 200;
        $breaks = [];
        foreach ($wanted as $break) {
            [$below, $above] = self::gapAt($spread, $break);
            if ($below === null || $above === null) {
                continue;
            }
            [$from, $to] = $near ? [max($below, $break - $reach), min($above, $break + $reach)] : [$below, $above];
            $round = $from < $to ? Pretty::between($from, $to) : $above;
            if ($breaks === [] || $round > $breaks[count($breaks) - 1]) {
                $breaks[] = $round;
            }
        }

        return $breaks;
    }

    /** @return array{float|null, float|null} the values on both sides of a break, which belongs to what is above it */
    private static function gapAt(Spread $spread, float $break): array
    {
        $below = null;
        foreach ($spread->groups as [$least, $most, $mean]) {
            if ($mean >= $break) {
                return [$below, $least];
            }
            $below = $most;
        }

        return [$below, null];
    }
}

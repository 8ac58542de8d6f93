<?php

declare(strict_types=1);

namespace PinYard\Stats;

/**
 * Whether two numbers rise and fall together, by their ranks (Spearman 1904, from memory): 1 where the one never falls
 * while the other rises, -1 where it always does, near 0 where they have nothing to do with each other. Equal numbers
 * share the mean of their ranks.
 */
final class RankCorrelation
{
    /** Of fewer pairs nothing is said. */
    public const LEAST = 4;

    /**
     * @param  list<float>  $a
     * @param  list<float>  $b  as many, pair by pair
     * @return float|null null of too few pairs, or where one of both is always the same
     */
    public static function of(array $a, array $b): ?float
    {
        $n = count($a);
        if ($n < self::LEAST) {
            return null;
        }
        [$x, $y] = [self::ranks($a), self::ranks($b)];
        $mean = ($n + 1) / 2;
        [$xy, $xx, $yy] = [0.0, 0.0, 0.0];
        foreach ($x as $i => $rank) {
            [$dx, $dy] = [$rank - $mean, $y[$i] - $mean];
            $xy += $dx * $dy;
            $xx += $dx * $dx;
            $yy += $dy * $dy;
        }

        return $xx === 0.0 || $yy === 0.0 ? null : max(-1.0, min(1.0, $xy / sqrt($xx * $yy)));
    }

    /**
     * Common practice, no source: below 0.1 nothing, below 0.3 weak, below 0.6 fair, else strong.
     *
     * @return 'not'|'weakly'|'fairly'|'strongly'
     */
    public static function word(float $rho): string
    {
        return match (true) {
            abs($rho) < 0.1 => 'not',
            abs($rho) < 0.3 => 'weakly',
            abs($rho) < 0.6 => 'fairly',
            default => 'strongly',
        };
    }

    /**
     * @param  list<float>  $values
     * @return list<float>
     */
    private static function ranks(array $values): array
    {
        asort($values);
        $order = array_keys($values);
        $sorted = array_values($values);
        $ranks = array_fill(0, count($values), 0.0);
        for ($i = 0, $n = count($sorted); $i < $n; $i = $j) {
            for ($j = $i + 1; $j < $n && $sorted[$j] === $sorted[$i]; $j++);
            for ($k = $i; $k < $j; $k++) {
                $ranks[$order[$k]] = ($i + $j + 1) / 2;
            }
        }

        return array_values($ranks);
    }
}

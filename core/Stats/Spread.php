<?php

declare(strict_types=1);

namespace PinYard\Stats;

/**
 * How the values of one field lie: groups in ascending order, each of one value or of a narrow run of values, with how
 * many there are. Classes are made of this, so a million values weigh no more than some thousand groups.
 */
final readonly class Spread implements Distribution
{
    public int $count;

    public float $mean;

    /** Standard deviation of a sample (divided by n - 1); 0 where there is but one value. */
    public float $deviation;

    /**
     * @param  list<array{float, float, float, int, float}>  $groups  least, most, mean, number, sum of squared
     *     distances from that mean
     * @param  int  $missing  records without a value
     */
    public function __construct(public array $groups, public int $missing = 0)
    {
        $count = array_sum(array_column($groups, 3));
        $sum = 0.0;
        foreach ($groups as [, , $mean, $n]) {
            $sum += $mean * $n;
        }
        $all = $count === 0 ? 0.0 : $sum / $count;
        $squares = 0.0;
        foreach ($groups as [, , $mean, $n, $within]) {
            $squares += $n * ($mean - $all) ** 2 + $within;
        }
        $this->count = $count;
        $this->mean = $all;
        $this->deviation = $count < 2 ? 0.0 : sqrt($squares / ($count - 1));
    }

    /**
     * Of single values; what is no finite number counts as missing.
     *
     * @param  iterable<int|float|null>  $values
     */
    public static function ofValues(iterable $values): self
    {
        $all = [];
        $missing = 0;
        foreach ($values as $value) {
            is_numeric($value) && is_finite((float) $value) ? ($all[] = (float) $value) : $missing++;
        }
        sort($all);
        $groups = [];
        for ($i = 0, $n = count($all); $i < $n; $i = $end) {
            $value = $all[$i];
            for ($end = $i + 1; $end < $n && $all[$end] === $value; $end++);
            $groups[] = [$value, $value, $value, $end - $i, 0.0];
        }

        return new self($groups, $missing);
    }

    /**
     * The same in at most so many groups: neighbouring ones are put together into runs of equal width, as a database
     * does it for large layers. Where there are no more it stays as it is.
     *
     * @param  int  $most  at least 1
     */
    public function runs(int $most): self
    {
        if (count($this->groups) <= $most) {
            return $this;
        }
        $least = $this->least();
        $width = max(($this->most() - $least) / $most, 1e-300);
        $runs = [];
        $run = null;
        $last = -1;
        foreach ($this->groups as $group) {
            $bin = min($most - 1, (int) (($group[2] - $least) / $width));
            if ($run !== null && $bin !== $last) {
                $runs[] = $run;
                $run = null;
            }
            $run = $run === null ? $group : self::together($run, $group);
            $last = $bin;
        }

        return new self($run === null ? $runs : [...$runs, $run], $this->missing);
    }

    /**
     * Two groups put together, as Chan, Golub and LeVeque (1979) add variances.
     *
     * @param  array{float, float, float, int, float}  $a
     * @param  array{float, float, float, int, float}  $b  above it
     * @return array{float, float, float, int, float}
     */
    private static function together(array $a, array $b): array
    {
        [$low, , $m, $k, $w] = $a;
        [, $high, $mean, $n, $within] = $b;
        $all = $k + $n;
        $d = $mean - $m;

        return [$low, $high, $m + ($d * $n) / $all, $all, $w + $within + ($d * $d * $k * $n) / $all];
    }

    public function least(): float
    {
        return $this->groups[0][0] ?? 0.0;
    }

    public function most(): float
    {
        return $this->groups === [] ? 0.0 : $this->groups[count($this->groups) - 1][1];
    }

    public function known(): int
    {
        return $this->count;
    }

    public function missing(): int
    {
        return $this->missing;
    }

    public function mean(): float
    {
        return $this->mean;
    }

    public function deviation(): float
    {
        return $this->deviation;
    }

    /** How many different values there are, as far as the groups tell. */
    public function distinct(): int
    {
        return count($this->groups);
    }

    /**
     * Quantile by linear interpolation between ranks, R's type 7 (Hyndman and Fan 1996).
     *
     * @param  float  $share  from 0 to 1
     */
    public function quantile(float $share): float
    {
        $at = ($this->count - 1) * $share;
        $below = (int) floor($at + 1e-9);
        $low = $this->ranked($below);
        $part = max(0.0, $at - $below);

        return $part === 0.0 ? $low : $low + ($this->ranked($below + 1) - $low) * $part;
    }

    private function ranked(int $rank): float
    {
        foreach ($this->groups as [, , $mean, $n]) {
            if ($rank < $n) {
                return $mean;
            }
            $rank -= $n;
        }

        return $this->most();
    }

    /**
     * @param  list<float>  $breaks  ascending
     * @return list<int> how many lie below the first, from each to the next, and from the last on
     */
    public function counts(array $breaks): array
    {
        $counts = array_fill(0, count($breaks) + 1, 0);
        foreach ($this->groups as [, , $mean, $n]) {
            $counts[Classes::indexOf($breaks, $mean)] += $n;
        }

        return array_values($counts);
    }

    /**
     * Bars of equal width.
     *
     * @return list<array{from: float, to: float, count: int}> none where all values are the same
     */
    public function histogram(int $bars): array
    {
        [$least, $most] = [$this->least(), $this->most()];
        $width = ($most - $least) / $bars;
        if ($width <= 0 || ! is_finite($width)) {
            return [];
        }
        $counts = array_fill(0, $bars, 0);
        foreach ($this->groups as [, , $mean, $n]) {
            $counts[min($bars - 1, max(0, (int) floor(($mean - $least) / $width)))] += $n;
        }
        $out = [];
        foreach ($counts as $i => $n) {
            $out[] = ['from' => $least + $i * $width, 'to' => $least + ($i + 1) * $width, 'count' => $n];
        }

        return $out;
    }
}

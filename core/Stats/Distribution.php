<?php

declare(strict_types=1);

namespace PinYard\Stats;

/** How the values of one number lie. */
interface Distribution
{
    /** How many there are. */
    public function known(): int;

    /** Records without one. */
    public function missing(): int;

    /** 0 where there are none. */
    public function mean(): float;

    /** Standard deviation of a sample (divided by n - 1); 0 where there is but one value. */
    public function deviation(): float;

    public function least(): float;

    public function most(): float;

    /**
     * By linear interpolation between ranks, R's type 7 (Hyndman and Fan 1996).
     *
     * @param  float  $share  from 0 to 1
     */
    public function quantile(float $share): float;

    /**
     * @param  list<float>  $breaks  ascending
     * @return list<int> how many lie below the first, from each to the next, and from the last on
     */
    public function counts(array $breaks): array;
}

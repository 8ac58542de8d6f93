<?php

declare(strict_types=1);

namespace PinYard\Bits;

use PinYard\Stats\Distribution;

/** How a number of some slots lies, worked out from its digits as it is asked for. */
final readonly class NumberDistribution implements Distribution
{
    private int $known;

    private int $all;

    public function __construct(private NumberSlots $numbers, private \GMP $of)
    {
        $this->known = Slots::count($of & $numbers->there);
        $this->all = Slots::count($of);
    }

    public function known(): int
    {
        return $this->known;
    }

    public function missing(): int
    {
        return $this->all - $this->known;
    }

    public function mean(): float
    {
        return $this->numbers->mean($this->of) ?? 0.0;
    }

    public function deviation(): float
    {
        return $this->numbers->deviation($this->of) ?? 0.0;
    }

    public function least(): float
    {
        return $this->numbers->smallest($this->of) ?? 0.0;
    }

    public function most(): float
    {
        return $this->numbers->largest($this->of) ?? 0.0;
    }

    public function quantile(float $share): float
    {
        return $this->numbers->quantile($this->of, $share) ?? 0.0;
    }

    public function counts(array $breaks): array
    {
        $counts = [];
        $from = $this->known;
        foreach ($breaks as $break) {
            $above = Slots::count($this->numbers->atLeast($break) & $this->of);
            $counts[] = $from - $above;
            $from = $above;
        }

        return [...$counts, $from];
    }
}

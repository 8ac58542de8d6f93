<?php

declare(strict_types=1);

namespace PinYard\Flag;

use PinYard\Stats\Distribution;

/**
 * Between which values a number is expected, by how the others lie: Tukey's outer fences (Exploratory Data Analysis,
 * 1977; also NIST/SEMATECH e-Handbook, 7.1.6), three times the distance between the quartiles beyond each of them.
 * They need no normal distribution, and some wild values do not move them.
 */
final readonly class Fences
{
    /** From fewer values nothing is said (common practice, no source). */
    public const LEAST = 20;

    private const FAR = 3.0;

    public function __construct(public float $lower, public float $upper)
    {
    }

    /** @return self|null null where there are too few values, or half of them are one and the same */
    public static function of(Distribution $values): ?self
    {
        if ($values->known() < self::LEAST) {
            return null;
        }
        [$lower, $upper] = [$values->quantile(0.25), $values->quantile(0.75)];

        return $upper > $lower ? new self($lower, $upper) : null;
    }

    public function low(): float
    {
        return $this->lower - self::FAR * ($this->upper - $this->lower);
    }

    public function high(): float
    {
        return $this->upper + self::FAR * ($this->upper - $this->lower);
    }

    public function hold(float $value): bool
    {
        return $value >= $this->low() && $value <= $this->high();
    }
}

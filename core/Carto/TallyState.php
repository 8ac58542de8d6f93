<?php

declare(strict_types=1);

namespace PinYard\Carto;

/** What is known of the records in one area: enough for every measure, and records can be taken out of it again. */
final class TallyState
{
    /** Sums are kept in whole parts of this, so that they come to the same in every order. */
    private const PARTS = 1_000_000;

    public int $records = 0;

    /** Records with a value of the measured field. */
    public int $known = 0;

    /** In millionths; beyond what a whole number holds it is a float. */
    private int|float $parts = 0;

    public ?float $least = null;

    public ?float $most = null;

    /** Records that are in the slice whose share is told. */
    public int $share = 0;

    /** Whether it is not told, being of too few or telling what is. */
    public bool $held = false;

    public function add(?float $value, bool $inShare = false): void
    {
        $this->records++;
        $this->share += $inShare ? 1 : 0;
        if ($value !== null) {
            $this->known++;
            $this->parts += self::partsOf($value);
            $this->least = $this->least === null ? $value : min($this->least, $value);
            $this->most = $this->most === null ? $value : max($this->most, $value);
        }
    }

    /**
     * Takes a record out that was added before.
     *
     * @return bool whether the least or the most may be another now, which only the records that are left can tell
     */
    public function takeOut(?float $value, bool $inShare = false): bool
    {
        $this->records--;
        $this->share -= $inShare ? 1 : 0;
        if ($value === null) {
            return false;
        }
        $this->known--;
        $this->parts -= self::partsOf($value);

        return $value === $this->least || $value === $this->most;
    }

    public function sum(): float
    {
        return $this->parts / self::PARTS;
    }

    private static function partsOf(float $value): int|float
    {
        $parts = round($value * self::PARTS);

        return abs($parts) < PHP_INT_MAX / 4 ? (int) $parts : $parts;
    }

    /** @return array{int, int, int|float, float|null, float|null, int} */
    public function toArray(): array
    {
        return [$this->records, $this->known, $this->parts, $this->least, $this->most, $this->share];
    }

    /** @param  array{int, int, int|float, int|float|null, int|float|null, int}  $in */
    public static function fromArray(array $in): self
    {
        $state = new self;
        [$state->records, $state->known, $state->parts, $state->least, $state->most, $state->share] = $in;

        return $state;
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Board;

/** A measure's value, with how many records it was made of. */
final readonly class Figure
{
    /**
     * @param  float|string|null  $value  a number, or a day; null where there is none: no record with a value, nothing
     *     to divide by
     * @param  int  $n  records
     * @param  int  $known  those of them that have what is measured
     * @param  bool  $held  whether it is not told, being of too few
     */
    public function __construct(
        public float|string|null $value,
        public int $n,
        public int $known,
        public bool $held = false,
    ) {
    }

    /** Of too few to be told; nothing else is said of it either. */
    public static function held(): self
    {
        return new self(null, 0, 0, true);
    }

    public static function none(): self
    {
        return new self(null, 0, 0);
    }

    /** Of no records there are none, and their sum is nought. */
    public static function ofNothing(Measure $measure): self
    {
        return new self($measure->kind->adds() ? 0.0 : null, 0, 0);
    }

    public function number(): ?float
    {
        return is_float($this->value) ? $this->value : null;
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Bits;

/** Codes as they come in: one of a list for each slot, or several behind each other with commas between. */
final class ChoiceCoder implements Coder
{
    /** More codes than this are not kept. */
    private const MOST = 250;

    /** More codes than this of which a record may have several are not kept: each is a digit of one number. */
    private const MOST_SEVERAL = 48;

    /** @var array<array-key, int> */
    private array $codes = [];

    /** @var array<array-key, int> by what a record holds */
    private array $numbers = [];

    private readonly Planes $planes;

    public function __construct(private readonly bool $several)
    {
        $this->planes = new Planes;
    }

    public function add(array $values): void
    {
        $numbers = [];
        foreach ($values as $value) {
            $numbers[] = $value === null
                ? 0
                : $this->numbers[is_float($value) ? (string) $value : $value] ??= $this->number((string) $value);
        }
        if (count($this->codes) > ($this->several ? self::MOST_SEVERAL : self::MOST)) {
            throw new NotByBits('too many codes');
        }
        $this->planes->add($numbers);
    }

    private function number(string $value): int
    {
        if (! $this->several) {
            return $this->rank($value);
        }
        $number = 0;
        foreach ($value === '' ? [] : explode(',', $value) as $code) {
            $number |= 1 << min(62, $this->rank($code) - 1);
        }

        return $number;
    }

    /** From 1 on, in the order in which they came. */
    private function rank(string $code): int
    {
        return $this->codes[$code] ??= count($this->codes) + 1;
    }

    public function done(): ChoiceSlots
    {
        $sets = [];
        foreach ($this->codes as $code => $rank) {
            $sets[$code] = $this->several ? $this->planes->withDigit($rank - 1) : $this->planes->equal($rank);
        }

        return new ChoiceSlots($sets, $this->several);
    }
}

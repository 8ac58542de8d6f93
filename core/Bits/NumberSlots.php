<?php

declare(strict_types=1);

namespace PinYard\Bits;

/**
 * One number of every slot, by its binary digits: for each place the set of slots that have a digit there (bit-sliced
 * numbers; O'Neil and Quass 1997, from memory). Numbers with decimals are kept as whole ones of their last decimal, so
 * that sums are exact.
 */
final readonly class NumberSlots
{
    /** More places than this are not kept: their squares would take longer than asking. */
    public const MOST_PLACES = 48;

    /**
     * @param  \GMP  $there  slots that have a number
     * @param  list<\GMP>  $places  of the number less `$least`, the ones first; nothing in slots without a number
     * @param  int  $least  what nought stands for, in units of the last decimal
     * @param  int  $decimals  how many
     */
    public function __construct(public \GMP $there, public array $places, public int $least, public int $decimals)
    {
    }

    /** Slots whose number is at least so much. */
    public function atLeast(int|float $number): \GMP
    {
        return $this->from($this->ceiling($number));
    }

    /** Slots whose number is at most so much. */
    public function atMost(int|float $number): \GMP
    {
        $first = $this->ceiling($number);
        // The very number is still in it.
        $first = $first !== null && $this->told($first) == $number ? $first + 1 : $first;

        return Slots::without($this->there, $this->from($first));
    }

    public function equalTo(int|float $number): \GMP
    {
        return $this->atLeast($number) & $this->atMost($number);
    }

    /**
     * Slots from a whole number of units on.
     *
     * @param  int|null  $units  null: above all
     */
    private function from(?int $units): \GMP
    {
        $count = count($this->places);
        $above = $units === null ? null : $units - $this->least;
        if ($above === null || $above >= 1 << $count) {
            return Slots::none();
        }
        if ($above <= 0) {
            return $this->there;
        }
        $found = null;
        for ($i = 0; $i < $count; $i++) {
            // Until the first digit of what is compared with, all are still as large.
            if (($above >> $i & 1) === 1) {
                $found = $found === null ? $this->places[$i] : $this->places[$i] & $found;
            } elseif ($found !== null) {
                $found = $this->places[$i] | $found;
            }
        }

        return $found ?? $this->there;
    }

    /** The least number of units that is not below a number; null where that is beyond all that are kept. */
    private function ceiling(int|float $number): ?int
    {
        if (is_int($number) && $this->decimals === 0) {
            return $number;
        }
        $scaled = $number * 10 ** $this->decimals;
        if (is_nan($scaled) || $scaled > 2 ** 53) {
            return null;
        }
        if ($scaled < -(2 ** 53)) {
            return $this->least;
        }
        $units = (int) ceil($scaled);
        // The product may have been rounded over the next whole number.
        while ($this->told($units - 1) >= $number) {
            $units--;
        }
        while ($this->told($units) < $number) {
            $units++;
        }

        return $units;
    }

    /** A number of units as it was before: the nearest double to that decimal. */
    public function told(int $units): float
    {
        return $units / 10 ** $this->decimals;
    }

    /** In units of the last decimal, exactly. */
    public function sum(\GMP $of): \GMP
    {
        $sum = gmp_init($this->least) * Slots::count($of & $this->there);
        foreach ($this->places as $i => $place) {
            $sum += gmp_init(Slots::count($place & $of)) << $i;
        }

        return $sum;
    }

    /** The sum as a number; 0 of none. */
    public function total(\GMP $of): float
    {
        return (float) gmp_strval($this->sum($of)) / 10 ** $this->decimals;
    }

    public function mean(\GMP $of): ?float
    {
        $n = Slots::count($of & $this->there);

        return $n === 0 ? null : (float) gmp_strval($this->sum($of)) / ($n * 10 ** $this->decimals);
    }

    /** Standard deviation of a sample, divided by n - 1, from exact sums; null of fewer than two. */
    public function deviation(\GMP $of): ?float
    {
        $n = Slots::count($of & $this->there);
        if ($n < 2) {
            return null;
        }
        $sum = $squares = gmp_init(0);
        foreach ($this->places as $i => $place) {
            $here = $place & $of;
            $sum += $all = gmp_init(Slots::count($here)) << $i;
            $squares += $all << $i;
            for ($j = 0; $j < $i; $j++) {
                $squares += gmp_init(Slots::count($this->places[$j] & $here)) << ($i + $j + 1);
            }
        }
        $above = (float) gmp_strval($n * $squares - $sum * $sum);

        return sqrt($above / ((float) $n * ($n - 1))) / 10 ** $this->decimals;
    }

    public function smallest(\GMP $of): ?float
    {
        return $this->ranked($of, 0);
    }

    public function largest(\GMP $of): ?float
    {
        return $this->ranked($of, Slots::count($of & $this->there) - 1);
    }

    /** The number that so many others of a set stand before, in ascending order; null where there are fewer. */
    public function ranked(\GMP $of, int $rank): ?float
    {
        $of &= $this->there;
        if ($rank < 0 || $rank >= Slots::count($of)) {
            return null;
        }
        $above = 0;
        foreach (array_reverse($this->places, true) as $i => $place) {
            $high = $of & $place;
            $low = Slots::isEmpty($high) ? $of : $of ^ $high;
            $below = Slots::count($low);
            if ($rank < $below) {
                $of = $low;
            } else {
                $of = $high;
                $rank -= $below;
                $above |= 1 << $i;
            }
        }

        return $this->told($this->least + $above);
    }

    /**
     * Quantile by linear interpolation between ranks, R's type 7 (Hyndman and Fan 1996).
     *
     * @param  float  $share  from 0 to 1
     */
    public function quantile(\GMP $of, float $share): ?float
    {
        $at = (Slots::count($of & $this->there) - 1) * $share;
        $below = (int) floor($at + 1e-9);
        $low = $this->ranked($of, $below);
        $part = max(0.0, $at - $below);
        if ($low === null || $part === 0.0) {
            return $low;
        }

        return $low + (($this->ranked($of, $below + 1) ?? $low) - $low) * $part;
    }

    /**
     * Parts a set by something that depends on the number alone and stays the same over stretches of numbers.
     *
     * @param  \Closure(int): (string|int)  $group  of a number of units; where the ends of a stretch have the same one
     *     all between have
     * @param  int  $most  groups
     * @return array<string|int, \GMP> by group, in ascending order of numbers; none is empty
     *
     * @throws NotByBits where there are more groups
     */
    public function parts(\GMP $of, \Closure $group, int $most): array
    {
        $parts = [];
        $this->part($of & $this->there, count($this->places), 0, $group, $most, $parts);

        return $parts;
    }

    /**
     * @param  \Closure(int): (string|int)  $group
     * @param  array<string|int, \GMP>  $parts
     */
    private function part(\GMP $of, int $places, int $above, \Closure $group, int $most, array &$parts): void
    {
        if (Slots::isEmpty($of)) {
            return;
        }
        $first = $group($this->least + $above);
        if ($places < 1 || $first === $group($this->least + $above + (1 << $places) - 1)) {
            $parts[$first] = isset($parts[$first]) ? $parts[$first] | $of : $of;
            if (count($parts) > $most) {
                throw new NotByBits('too many groups');
            }

            return;
        }
        $high = $of & $this->places[$places - 1];
        $this->part($of ^ $high, $places - 1, $above, $group, $most, $parts);
        $this->part($high, $places - 1, $above | 1 << ($places - 1), $group, $most, $parts);
    }

    /** How many different numbers there are. */
    public function distinct(\GMP $of, int $most): int
    {
        return count($this->parts($of, static fn (int $units): int => $units, $most));
    }

    /**
     * The same with slots that come after them.
     *
     * @param  int  $slots  how many are here
     * @param  \GMP  $keep  those of them that still hold
     * @param  self  $more  numbers of the slots after, with as many decimals
     */
    public function followedBy(int $slots, \GMP $keep, self $more): self
    {
        if ($more->decimals !== $this->decimals) {
            throw new NotByBits('more decimals than before');
        }
        $own = [array_map(static fn (\GMP $p): \GMP => $p & $keep, $this->places), $this->there & $keep, $this->least];
        $theirs = [$more->places, $more->there, $more->least];
        $least = min($this->least, $more->least);
        [$ours, $there] = self::lowered($own, $least);
        [$others, $thereToo] = self::lowered($theirs, $least);
        $places = [];
        for ($i = 0, $n = max(count($ours), count($others)); $i < $n; $i++) {
            $places[] = ($ours[$i] ?? Slots::none()) | (($others[$i] ?? Slots::none()) << $slots);
        }
        if (count($places) > self::MOST_PLACES) {
            throw new NotByBits('numbers too far from each other');
        }

        return new self($there | ($thereToo << $slots), $places, $least, $this->decimals);
    }

    /**
     * Digits of the same numbers above a lower least one: what lies between is added to each, place by place, and
     * what is carried goes to the next place.
     *
     * @param  array{list<\GMP>, \GMP, int}  $of
     * @return array{list<\GMP>, \GMP}
     */
    private static function lowered(array $of, int $least): array
    {
        [$places, $there, $from] = $of;
        $add = $from - $least;
        $carry = Slots::none();
        for ($i = 0; $add >> $i > 0 || ! Slots::isEmpty($carry); $i++) {
            $here = $places[$i] ?? Slots::none();
            $added = ($add >> $i & 1) === 1 ? $there : Slots::none();
            $places[$i] = $here ^ $added ^ $carry;
            $carry = ($here & $added) | ($carry & ($here ^ $added));
        }

        return [array_values($places), $there];
    }
}

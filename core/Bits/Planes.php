<?php

declare(strict_types=1);

namespace PinYard\Bits;

/**
 * Whole numbers of many slots while they come in, the eight lowest digits of all of them together, then the next
 * eight: so the digits of one place are drawn out of them by one call each.
 */
final class Planes
{
    private const BYTE = 8;

    /** @var array<int, string> the lowest first */
    private array $planes = [];

    private int $slots = 0;

    /**
     * @param  list<int>  $numbers  of the next slots, from 0
     * @param  int|null  $places  digits that they have at the most; null: as many as the largest here
     */
    public function add(array $numbers, ?int $places = null): void
    {
        if ($numbers === []) {
            return;
        }
        $places ??= strlen(decbin(max($numbers)));
        $wanted = max(count($this->planes), intdiv($places + self::BYTE - 1, self::BYTE));
        for ($i = 0; $i < $wanted; $i++) {
            $this->planes[$i] ??= str_repeat("\0", $this->slots);
            // Beyond what a byte holds, pack leaves off what is higher.
            $this->planes[$i] .= pack('C*', ...($i === 0 ? $numbers : self::shifted($numbers, $i * self::BYTE)));
        }
        $this->slots += count($numbers);
    }

    /**
     * @param  list<int>  $numbers
     * @return list<int>
     */
    private static function shifted(array $numbers, int $by): array
    {
        foreach ($numbers as $i => $number) {
            $numbers[$i] = $number >> $by;
        }

        return $numbers;
    }

    /** Slots whose number has a digit at a place (0: the ones). */
    public function withDigit(int $place): \GMP
    {
        $plane = $this->planes[intdiv($place, self::BYTE)] ?? null;
        if ($plane === null) {
            return Slots::none();
        }
        $flags = '';
        for ($byte = 0; $byte < 256; $byte++) {
            $flags .= $byte >> ($place % self::BYTE) & 1 ? '1' : '0';
        }

        return Slots::ofFlags(strtr($plane, self::everyByte(), $flags));
    }

    /** Slots whose number is one below 256. */
    public function equal(int $number): \GMP
    {
        $flags = str_repeat('0', 256);
        $flags[$number] = '1';
        $set = Slots::ofFlags(strtr($this->planes[0] ?? str_repeat("\0", $this->slots), self::everyByte(), $flags));
        foreach (array_slice($this->planes, 1) as $i => $plane) {
            for ($place = 0; $place < self::BYTE; $place++) {
                $set = Slots::without($set, $this->withDigit(($i + 1) * self::BYTE + $place));
            }
        }

        return $set;
    }

    private static function everyByte(): string
    {
        return implode('', array_map(chr(...), range(0, 255)));
    }
}

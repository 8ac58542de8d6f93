<?php

declare(strict_types=1);

namespace PinYard\Bits;

/**
 * Sets of slots, each as one large whole number: slot 0 is its lowest bit. Every record of a layer has a slot, so that
 * records are put together, parted and counted by whole words.
 */
final class Slots
{
    private const WORD = 8;

    private const ORDER = GMP_LSW_FIRST | GMP_LITTLE_ENDIAN;

    public static function none(): \GMP
    {
        return gmp_init(0);
    }

    public static function all(int $count): \GMP
    {
        return (gmp_init(1) << $count) - 1;
    }

    /** @param  list<int>  $slots */
    public static function of(array $slots): \GMP
    {
        if ($slots === []) {
            return self::none();
        }
        $bytes = str_repeat("\0", intdiv(max($slots), 8) + 1);
        foreach ($slots as $slot) {
            $bytes[$slot >> 3] = chr(ord($bytes[$slot >> 3]) | (1 << ($slot & 7)));
        }

        return self::ofBytes($bytes);
    }

    /** @param  string  $flags  one character for each slot: `1` where it is in, else `0` */
    public static function ofFlags(string $flags): \GMP
    {
        return $flags === '' ? self::none() : gmp_init(strrev($flags), 2);
    }

    public static function ofBytes(string $bytes): \GMP
    {
        if ($bytes === '') {
            return self::none();
        }
        $over = strlen($bytes) % self::WORD;

        return gmp_import(
            $over === 0 ? $bytes : $bytes.str_repeat("\0", self::WORD - $over),
            self::WORD,
            self::ORDER,
        );
    }

    /** Of the lowest slots first; none where the set is empty. */
    public static function toBytes(\GMP $set): string
    {
        return gmp_sign($set) === 0 ? '' : gmp_export($set, self::WORD, self::ORDER);
    }

    public static function isEmpty(\GMP $set): bool
    {
        return gmp_sign($set) === 0;
    }

    public static function count(\GMP $set): int
    {
        return gmp_popcount($set);
    }

    /** Those of the first that are not in the second. */
    public static function without(\GMP $set, \GMP $others): \GMP
    {
        return $set ^ ($set & $others);
    }

    /**
     * @return list<int> slots, the lowest first
     */
    public static function list(\GMP $set): array
    {
        $slots = [];
        for ($at = gmp_scan1($set, 0); $at >= 0; $at = gmp_scan1($set, $at + 1)) {
            $slots[] = $at;
        }

        return $slots;
    }
}

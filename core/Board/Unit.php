<?php

declare(strict_types=1);

namespace PinYard\Board;

/**
 * Units that numbers can be told in, and by how much they differ (BIPM, The International System of Units, 9th
 * edition).
 */
final readonly class Unit
{
    /** By what is measured: how many of the first each is. Feet and miles: international yard of 1959, 0.3048 m. */
    private const KINDS = [
        ['m' => 1.0, 'mm' => 0.001, 'cm' => 0.01, 'km' => 1000.0, 'ft' => 0.3048, 'mi' => 1609.344],
        ['m²' => 1.0, 'ha' => 10_000.0, 'km²' => 1_000_000.0],
        ['g' => 1.0, 'mg' => 0.001, 'kg' => 1000.0, 't' => 1_000_000.0],
        ['s' => 1.0, 'min' => 60.0, 'h' => 3600.0, 'd' => 86_400.0],
        ['l' => 1.0, 'ml' => 0.001, 'm³' => 1000.0],
    ];

    private const SAME = ['m2' => 'm²', 'km2' => 'km²', 'm3' => 'm³', 'metres' => 'm', 'meters' => 'm'];

    /**
     * @return list<string> in which a number can be told that is kept in a unit; none where the unit is not known
     */
    public static function beside(?string $unit): array
    {
        $kind = self::kindOf($unit);

        return $kind === null ? [] : array_keys($kind);
    }

    /** What a number of one unit is multiplied by to be told in another; null where they measure different things. */
    public static function factor(?string $from, string $to): ?float
    {
        $kind = self::kindOf($from);

        return $kind === null || ! isset($kind[$to]) ? null : $kind[self::known((string) $from)] / $kind[$to];
    }

    private static function known(string $unit): string
    {
        return self::SAME[$unit] ?? $unit;
    }

    /** @return array<string, float>|null */
    private static function kindOf(?string $unit): ?array
    {
        if ($unit === null) {
            return null;
        }
        foreach (self::KINDS as $kind) {
            if (isset($kind[self::known($unit)])) {
                return $kind;
            }
        }

        return null;
    }
}

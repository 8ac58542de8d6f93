<?php

declare(strict_types=1);

namespace PinYard\Audience;

/**
 * Which groups of a table may not be told to somebody who is told counts of so many records at least. Primary and
 * complementary suppression of frequency tables, as the handbooks on statistical disclosure control have it
 * (Hundepool et al. 2012, Statistical Disclosure Control, chapters 4 and 5, from memory): a count below the least is
 * held back, and so many of the next smallest with it that the total does not tell what is missing.
 *
 * Here it must also hold against whoever knows this rule. So those that are held back are never all of one, nor all of
 * one less than the least; of equal counts all are held back or none, for which of them it was would tell; and where
 * nothing would be left, the groups are not told apart at all. A test goes through all tables of a few groups and finds
 * none in which a count that is held back could be worked out.
 */
final class SmallCounts
{
    /** What can be asked for; of less than three, whoever is one of two would know the other. */
    public const LEAST = 3;

    public const MOST = 1_000;

    /**
     * @param  array<array-key, int>  $counts  of groups that have no record in common; their sum may be known
     * @param  list<array-key>  $small  also those that are held back whatever their count is
     * @return array<array-key, true>|null those that may not be told; null: nothing of any of them
     */
    public static function heldBack(int $least, array $counts, array $small = []): ?array
    {
        $there = array_filter($counts, static fn (int $n): bool => $n > 0);
        $held = array_fill_keys(array_values(array_intersect($small, array_keys($there))), true);
        foreach ($there as $group => $n) {
            if ($n < $least) {
                $held[$group] = true;
            }
        }
        while ($held !== [] && ! self::isVague($least, array_intersect_key($there, $held))) {
            $left = array_diff_key($there, $held);
            if ($left === []) {
                return null;
            }
            $held += array_fill_keys(array_keys($left, min($left), true), true);
        }

        return $held !== [] && count($held) === count($there) ? null : $held;
    }

    /** @param  array<array-key, int>  $held */
    private static function isVague(int $least, array $held): bool
    {
        $groups = count($held);
        $sum = array_sum($held);

        // One group alone is never vague: it is less than the least, or was held back for others.
        return $sum >= $least && $sum > $groups && (max([0, ...$held]) >= $least || $sum < $groups * ($least - 1));
    }

    /** Whether a part of something, or what is left of it without that part, is of too few. */
    public static function isTooFew(int $least, int $part, int $whole): bool
    {
        $left = $whole - $part;

        return ($part > 0 && $part < $least) || ($left > 0 && $left < $least);
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Board;

/** Parts of a whole in whole numbers that add up. */
final class Shares
{
    /**
     * Percentages by the largest remainder (Hare quota, Hamilton's method): each is rounded down, and what is lacking
     * to a hundred goes to those that lost the most.
     *
     * @param  array<array-key, float|int>  $parts  none of them below zero
     * @return array<array-key, int|null> by the same keys; null for all where there is no whole
     */
    public static function of(array $parts): array
    {
        $whole = array_sum($parts);
        if ($parts === [] || $whole <= 0 || min($parts) < 0 || ! is_finite((float) $whole)) {
            return array_map(static fn (): null => null, $parts);
        }
        $exact = array_map(static fn (float|int $p): float => ($p / $whole) * 100, $parts);
        $shares = array_map(static fn (float $p): int => (int) floor($p + 1e-9), $exact);
        $lost = [];
        foreach ($exact as $key => $p) {
            $lost[$key] = $p - $shares[$key];
        }
        // Of equal losses the earlier comes first, so that the same parts give the same shares.
        $order = array_keys($lost);
        usort($order, static fn ($a, $b): int => $lost[$b] <=> $lost[$a]);
        foreach (array_slice($order, 0, max(0, 100 - (int) array_sum($shares))) as $key) {
            $shares[$key]++;
        }

        return $shares;
    }
}

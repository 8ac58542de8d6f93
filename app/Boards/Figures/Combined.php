<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use PinYard\Board\Figure;
use PinYard\Board\Figures;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\Reading;

/** Measures that are made of two others, however those are found. */
final class Combined
{
    /**
     * How many of a hundred are in a slice.
     *
     * @param  list<Grouping>  $by
     * @return list<array{list<string|null>, Figure}>
     */
    public static function shares(Figures $figures, Reading $reading, Measure $measure, array $by): array
    {
        $count = Measure::count();
        $in = [];
        foreach ($figures->by($reading, [$count->within($measure->slice)], ...$by) as $group) {
            $in[Group::nameOf($group->keys)] = $group->figures[0]->n;
        }
        $groups = [];
        foreach ($figures->by($reading, [$count], ...$by) as $group) {
            $n = $group->figures[0]->n;
            $share = (($in[Group::nameOf($group->keys)] ?? 0) / $n) * 100;
            $groups[] = [$group->keys, new Figure($share, $n, $n)];
        }

        return $groups;
    }

    /**
     * One measure by another; nothing where there is nothing to divide by.
     *
     * @param  list<Grouping>  $by
     * @return list<array{list<string|null>, Figure}>
     */
    public static function ratios(Figures $figures, Reading $reading, Measure $measure, array $by): array
    {
        $parts = [$measure->top ?? Measure::count(), $measure->bottom ?? Measure::count()];
        $groups = [];
        foreach ($figures->by($reading, $parts, ...$by) as $group) {
            [$top, $bottom] = [$group->figures[0]->number(), $group->figures[1]->number()];
            $value = $top === null || $bottom === null || $bottom == 0.0 ? null : ($top / $bottom) * $measure->times;
            $groups[] = [$group->keys, new Figure(
                $value === null || is_finite($value) ? $value : null,
                $group->figures[0]->n,
                min($group->figures[0]->known, $group->figures[1]->known),
            )];
        }

        return $groups;
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Board;

/** A measure of all records, put together from those of groups that have no record in common. */
final class Totals
{
    /**
     * @param  list<Group>  $groups
     * @return Figure|null null where the groups do not tell it: a median, different values, groups that overlap, one of
     *     them held back
     */
    public static function of(array $groups, int $at, Measure $measure, bool $overlap): ?Figure
    {
        $adds = $measure->kind->adds();
        if ($overlap || (! $adds && $measure->kind !== MeasureKind::Mean)) {
            return null;
        }
        $n = $known = 0;
        $sum = 0.0;
        foreach ($groups as $group) {
            $figure = $group->figures[$at];
            if ($figure->held) {
                return null;
            }
            $n += $figure->n;
            $known += $figure->known;
            $sum += ($figure->number() ?? 0.0) * ($adds ? 1 : $figure->known);
        }

        return new Figure(match (true) {
            $adds => $n === 0 || $known > 0 ? $sum : null,
            default => $known > 0 ? $sum / $known : null,
        }, $n, $known);
    }
}

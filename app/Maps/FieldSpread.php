<?php

declare(strict_types=1);

namespace App\Maps;

use App\Records\VisibleRecords;
use PinYard\Design\Field;
use PinYard\Stats\Spread;

/**
 * How the numbers of a field lie: of a small layer each value with how often it is there; of a large one, or one of
 * more than 4,096 different values, runs of equal width with their means and spreads, grouped in one pass.
 */
final class FieldSpread
{
    private const GROUPS = 4_096;

    /** So many records are looked at one by one. */
    private const SINGLY = 50_000;

    /** Of a larger layer so many tell about where its numbers lie. */
    private const SAMPLE = 4_096;

    /** More of the records than this beyond where the numbers were thought to lie, and it is grouped once more. */
    private const BEYOND = 0.01;

    /** @param  VisibleRecords  $records  showing the field */
    public static function of(VisibleRecords $records, Field $field): Spread
    {
        $column = $field->column();
        // There are no more records than there were changes.
        $large = $records->layer->change_number > self::SINGLY;
        $values = $large
            ? $records->rows()->whereNotNull($column)->limit(self::SAMPLE)->pluck($column)
            : $records->rows()->pluck($column);
        $seen = Spread::ofValues($values->map(static fn (mixed $v): ?float => $v === null ? null : (float) $v));
        if (! $large) {
            return $seen->runs(self::GROUPS);
        }
        // Half as much again on either side: what was looked at are the first that were collected.
        $more = $seen->count === 0 ? 0.0 : ($seen->most() - $seen->least()) / 2;
        $spread = self::grouped($records, $column, $seen->least() - $more, $seen->most() + $more);
        if (self::beyond($spread, $seen->least() - $more, $seen->most() + $more) > self::BEYOND) {
            return self::grouped($records, $column, $spread->least(), $spread->most());
        }

        return $spread;
    }

    /** The share of the numbers that lie outside of where they were grouped. */
    private static function beyond(Spread $spread, float $least, float $most): float
    {
        $outside = 0;
        foreach ($spread->groups as [$low, $high, , $n]) {
            $outside += $low < $least || $high > $most ? $n : 0;
        }

        return $spread->count === 0 ? 0.0 : $outside / $spread->count;
    }

    /** In one pass; what lies beyond either end is with the first or the last run. */
    private static function grouped(VisibleRecords $records, string $column, float $least, float $most): Spread
    {
        $width = max(($most - $least) / self::GROUPS, 1e-300);
        $groups = [];
        $missing = 0;
        foreach (
            $records
                ->rows()
                ->selectRaw(
                    "least(greatest(floor(($column - ?) / ?), 0), ?) as bin, min($column) as low, "
                        ."max($column) as high, avg($column) as mean, count(*) as n, var_pop($column) as spread",
                    [$least, $width, self::GROUPS - 1],
                )
                ->groupBy('bin')
                ->orderBy('bin')
                ->get() as $row
        ) {
            $n = (int) $row->n;
            if ($row->bin === null) {
                $missing = $n;
            } else {
                $groups[] = [(float) $row->low, (float) $row->high, (float) $row->mean, $n, (float) $row->spread * $n];
            }
        }

        return new Spread($groups, $missing);
    }
}

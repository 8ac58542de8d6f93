<?php

declare(strict_types=1);

namespace App\Maps;

use App\Records\VisibleRecords;
use PinYard\Design\Field;
use PinYard\Stats\Spread;

/**
 * How the numbers of a field lie, read with one or two statements whatever the layer's size: each value with how often
 * it is there or, of more than 4,096 different ones, runs of equal width with their means and spreads.
 */
final class FieldSpread
{
    private const GROUPS = 4_096;

    /** Of more records than this the values themselves are not gone through: sorting a million takes seconds. */
    private const SINGLY = 50_000;

    /** @param  VisibleRecords  $records  showing the field */
    public static function of(VisibleRecords $records, Field $field): Spread
    {
        $column = $field->column();
        $ends = $records
            ->rows()
            ->selectRaw("min($column) as least, max($column) as most, count($column) as n, count(*) as of")
            ->first();
        if ($ends === null || (int) $ends->n === 0) {
            return new Spread([], (int) ($ends->of ?? 0));
        }
        $missing = (int) $ends->of - (int) $ends->n;
        $single = (int) $ends->n > self::SINGLY ? null : self::singly($records, $column);
        if ($single !== null) {
            return new Spread($single, $missing);
        }
        // Whole numbers within 4,096 of each other have a run each.
        $width = max(((float) $ends->most - (float) $ends->least) / self::GROUPS, 1e-300);
        $groups = [];
        foreach (
            $records
                ->rows()
                ->whereNotNull($column)
                ->selectRaw(
                    "least(floor(($column - ?) / ?), ?) as bin, min($column) as low, max($column) as high, "
                        ."avg($column) as mean, count(*) as n, var_pop($column) as spread",
                    [(float) $ends->least, $width, self::GROUPS - 1],
                )
                ->groupBy('bin')
                ->orderBy('bin')
                ->get() as $row
        ) {
            $n = (int) $row->n;
            $groups[] = [(float) $row->low, (float) $row->high, (float) $row->mean, $n, (float) $row->spread * $n];
        }

        return new Spread($groups, $missing);
    }

    /** @return list<array{float, float, float, int, float}>|null each value; null where there are too many */
    private static function singly(VisibleRecords $records, string $column): ?array
    {
        $values = $records
            ->rows()
            ->whereNotNull($column)
            ->groupBy($column)
            ->orderBy($column)
            ->selectRaw("$column as v, count(*) as n")
            ->limit(self::GROUPS + 1)
            ->get();
        if ($values->count() > self::GROUPS) {
            return null;
        }
        $groups = [];
        foreach ($values as $row) {
            $value = (float) $row->v;
            $groups[] = [$value, $value, $value, (int) $row->n, 0.0];
        }

        return $groups;
    }
}

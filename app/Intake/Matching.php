<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Layer;
use App\Storage\StoredValue;
use Illuminate\Support\Facades\DB;
use PinYard\Intake\IntakeSettings;
use PinYard\Intake\ValueReader;
use PinYard\Problem;

/** Finds the records that rows of a table are about, by a column whose values name them. */
final class Matching
{
    /**
     * @param  array<int, array{list<string>, string|null}>  $rows
     * @return array<int, object> rows of the layer's table by number of the table's row
     */
    public static function records(Layer $layer, IntakeSettings $s, array $rows): array
    {
        $column = $s->keyColumn === null ? null : $s->columns[$s->keyColumn];
        $field = $column === null ? null : $layer->design()->field($column->key);
        if ($column === null || $field === null) {
            return [];
        }
        $reader = new ValueReader($field, $column->order ?? 'ymd', $column->comma, $s->zone);
        $wanted = [];
        foreach ($rows as $number => [$cells]) {
            $value = $reader->read($cells[$s->keyColumn] ?? '');
            if ($value !== null && ! $value instanceof Problem && ! is_array($value)) {
                $wanted[$number] = StoredValue::toColumn($field->kind, $value);
            }
        }
        $found = [];
        foreach (array_chunk(array_values(array_unique($wanted)), 1_000) as $some) {
            foreach (DB::table($layer->table())->whereIn($field->column(), $some)->where('deleted', 0)->orderBy('id')->get() as $row) {
                // Of several with the same value the first made counts.
                $found[mb_strtolower((string) $row->{$field->column()})] ??= $row;
            }
        }

        return array_filter(array_map(static fn (string|int|float|null $v): ?object => $found[mb_strtolower((string) $v)] ?? null, $wanted));
    }
}

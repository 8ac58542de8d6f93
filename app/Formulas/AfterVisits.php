<?php

declare(strict_types=1);

namespace App\Formulas;

use App\Models\Layer;
use App\Storage\StoredValue;
use Illuminate\Support\Facades\DB;
use PinYard\Design\FieldKind;
use PinYard\Record\ValueCheck;

/**
 * Brings the calculated fields of visited records up to date when their visits have changed.
 * Runs in the same transaction, under the locks of both layers, so that phones and boards hear of both at once.
 */
final class AfterVisits
{
    /** @param  list<string>  $records  ids of visited records, 16 bytes each */
    public static function of(Layer $visited, array $records): void
    {
        $design = $visited->design();
        if (! $design->rules->visited() || $records === []) {
            return;
        }
        foreach (array_chunk(array_values(array_unique($records)), 500) as $some) {
            $rows = DB::table($visited->table())->whereIn('id', $some)->get();
            $around = Around::rows($visited, $design, $rows, true);
            foreach ($rows as $row) {
                $in = $around->at($row);
                $values = ValueCheck::against($design, $in->values, $in, $in->values)->values;
                $set = [];
                foreach ($design->valueFields() as $field) {
                    $new = $field->kind === FieldKind::Calculated ? StoredValue::toColumn($field->valueKind(), $values[$field->key] ?? null) : null;
                    if ($field->kind === FieldKind::Calculated && (string) $new !== (string) $row->{$field->column()}) {
                        $set[$field->column()] = $new;
                    }
                }
                if ($set !== []) {
                    DB::table($visited->table())->where('id', $row->id)->update([...$set, 'change_number' => ++$visited->change_number]);
                }
            }
        }
        $visited->save();
    }
}

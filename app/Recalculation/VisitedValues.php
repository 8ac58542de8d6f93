<?php

declare(strict_types=1);

namespace App\Recalculation;

use App\Formulas\FormulaContext;
use App\Layers\StoredValue;
use App\Records\RecordWriter;
use App\Records\VisitFollower;
use PinYard\Design\FieldKind;
use PinYard\Record\ValueCheck;

/**
 * Brings the calculated fields of visited records up to date when their visits have changed. Runs in the same
 * transaction, under the locks of both layers, so that phones and boards hear of both at once.
 */
final class VisitedValues implements VisitFollower
{
    public function follow(RecordWriter $writer, array $records): void
    {
        $visited = $writer->layer;
        $design = $visited->design();
        if (! $design->rules->visited()) {
            return;
        }
        foreach (array_chunk($records, 500) as $some) {
            $rows = $writer->records()->whereIn('id', $some)->get();
            $around = FormulaContext::rows($visited, $design, $rows, true);
            $worked = [];
            foreach ($rows as $row) {
                $in = $around->at($row);
                $before = $in->values;
                $values = ValueCheck::against($design, $before, $in, $before)->values;
                $set = $was = [];
                foreach ($design->valueFields() as $field) {
                    if ($field->kind !== FieldKind::Calculated) {
                        continue;
                    }
                    $new = StoredValue::toColumn($field->valueKind(), $values[$field->key] ?? null);
                    if ((string) $new !== (string) $row->{$field->column()}) {
                        $set[$field->column()] = $new;
                        $was[$field->key] = $before[$field->key] ?? null;
                    }
                }
                if ($set !== []) {
                    $worked[] = [$row, $set, $was];
                }
            }
            $writer->work($worked);
        }
    }
}

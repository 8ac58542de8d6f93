<?php

declare(strict_types=1);

namespace App\Maps;

use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Layer;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use PinYard\Carto\CardVisits;
use PinYard\Carto\Marks\NumberField;

/** The visits to one record, as its card tells them to one viewer: of those that they may see. */
final class CardVisitsView
{
    /** Of more than these the latest. */
    private const MOST = 100;

    /**
     * @param  string  $record  16 bytes, of a record that this viewer sees
     * @return array{count: int, label: string|null, list: list<array<string, string|float|null>>}|null  `list`: `at`,
     *     `value`, `text` of each, the latest first; null where there are no visits to be seen
     */
    public static function of(CardVisits $visits, Layer $layer, string $record, Viewer $viewer): ?array
    {
        $of = $layer->visitsLayer;
        $visible = $of === null ? null : VisibleRecords::of($viewer, $of);
        if ($of === null || $visible === null || $visible->seesNothing()) {
            return null;
        }
        $field = $visits->field === null ? null : $of->design()->field($visits->field);
        $field = NumberField::is($field) && $visible->shows((string) $field?->key) ? $field : null;
        $shown = $visible->showing($field === null ? [] : [$field->key]);
        $rows = $shown->visitsTo($record)->orderByDesc('collected_at')->orderByDesc('id')->limit(self::MOST)->get();

        return [
            'count' => $shown->visitsTo($record)->count(),
            'label' => $field?->label,
            'list' => array_values($rows->map(static function (\stdClass $row) use ($field): array {
                $stored = $field === null ? null : $row->{$field->column()} ?? null;

                return [
                    'at' => StoredRow::instant($row->collected_at),
                    'value' => $stored === null ? null : (float) $stored,
                    'text' => $field === null ? null : StoredValue::shown($field, $stored),
                ];
            })->all()),
        ];
    }
}

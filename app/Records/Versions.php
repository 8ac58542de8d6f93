<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Fill;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Design\FieldKind;
use stdClass;

/**
 * Every version of a record, the first first: those that history keeps whole, and those of fills, which are the version
 * before with the one value changed.
 */
final class Versions
{
    /**
     * @param  string  $record  16 bytes
     * @return list<stdClass> each with version, kind, user_id (or null), design_version, received_at, lon, lat,
     *     altitude (or null), shape (or null), values (by key); captured_at and clock_off where they are known
     */
    public static function of(Layer $layer, string $record): array
    {
        $known = [];
        foreach (
            DB::table('record_history')->where('layer_id', $layer->id)->where('record_id', $record)->get() as $row
        ) {
            $row->values = (array) json_decode($row->values, true);
            $known[$row->version] = $row;
        }
        foreach (self::filled($layer, $record) as $version => $change) {
            $known[$version] ??= $change;
        }
        $row = LayerRows::all($layer)->where('id', $record)->first();
        ksort($known);
        if ($row !== null && ! isset($known[1])) {
            self::begin($layer, $record, $row, $known);
        }
        if ($row !== null && $row->deleted && ! isset($known[$row->version])) {
            $known[$row->version] = self::takenBack($layer, $row);
        }
        $versions = [];
        $before = null;
        foreach ($known as $row) {
            if (isset($row->field)) {
                if ($before === null) {
                    continue;
                }
                $row = (object) [
                    ...(array) $before,
                    'version' => $row->version,
                    'kind' => 'change',
                    'user_id' => $row->user_id,
                    'design_version' => $row->design_version,
                    'received_at' => $row->received_at,
                    'values' => [...$before->values, $row->field => $row->value],
                ];
            }
            $versions[] = $before = $row;
        }

        return $versions;
    }

    /**
     * The first version of a record that was brought in with others: no row of history was written for it, for a
     * million of them would cost more than the records. It is what the record is now, or was when history begins, less
     * what fills did before that.
     *
     * @param  array<int, stdClass>  $known  by version; the first is added
     */
    private static function begin(Layer $layer, string $record, stdClass $row, array &$known): void
    {
        $whole = array_filter($known, static fn (stdClass $v): bool => ! isset($v->field));
        $from = $whole === [] ? PHP_INT_MAX : array_key_first($whole);
        $values = $whole === [] ? StoredRow::values($layer->design(), $row) : $whole[$from]->values;
        $place = $whole === [] ? $row : $whole[$from];
        foreach (array_reverse(self::filled($layer, $record), true) as $version => $change) {
            if ($version < $from) {
                $values[$change->field] = $change->before;
            }
        }
        $known[1] = (object) [
            'version' => 1,
            'kind' => 'import',
            'user_id' => $row->created_by,
            'design_version' => $row->version === 1
                    ? $row->design_version
                    : ($whole === []
                        ? $row->design_version
                        : $whole[$from]->design_version),
            'received_at' => $row->received_at,
            'captured_at' => $row->collected_at,
            'lon' => $place->lon,
            'lat' => $place->lat,
            'altitude' => $place->altitude,
            'shape' => $place->shape ?? null,
            'values' => $values,
        ];
        ksort($known);
    }

    /**
     * The version of a record that went with a whole import: one row stands for all of them.
     *
     * @param  stdClass  $row  of the layer's table, deleted
     */
    public static function takenBack(Layer $layer, stdClass $row): stdClass
    {
        $change = DB::table('record_changes')
            ->where('layer_id', $layer->id)
            ->where('is_range', true)
            ->where('from_number', '<', $row->change_number)
            ->where('cause', Cause::ImportUndone->value)
            ->orderByDesc('to_number')
            ->first();
        $at = $change->made_at ?? $row->received_at;

        return (object) [
            'version' => $row->version,
            'kind' => 'delete',
            'user_id' => $change->user_id ?? null,
            'design_version' => $row->design_version,
            'received_at' => $at,
            'captured_at' => $at,
            'lon' => $row->lon,
            'lat' => $row->lat,
            'altitude' => $row->altitude,
            'shape' => $row->shape ?? null,
            'values' => StoredRow::values($layer->design(), $row),
        ];
    }

    public static function find(Layer $layer, string $record, int $version): ?stdClass
    {
        foreach (self::of($layer, $record) as $one) {
            if ($one->version === $version) {
                return $one;
            }
        }

        return null;
    }

    /** @return array<int, stdClass> what fills changed in this record, by version */
    private static function filled(Layer $layer, string $record): array
    {
        $changes = [];
        foreach (Fill::query()->where('layer_id', $layer->id)->whereNotNull('written_at')->get() as $fill) {
            $row = DB::table($fill->table())->where('id', $record)->first();
            $kind = FieldKind::tryFrom((string) $fill->kind);
            if ($row === null || $kind === null) {
                continue;
            }
            foreach (
                [
                    [$row->after_version, $row->after_value, $row->before_value, $fill->written_at],
                    [$row->undone_version, $row->before_value, $row->after_value, $fill->undone_at],
                ] as [$version, $value, $before, $at]
            ) {
                if ($version !== null) {
                    $changes[(int) $version] = (object) [
                        'version' => (int) $version,
                        'field' => $fill->field,
                        'value' => StoredValue::fromColumn($kind, $value),
                        'before' => StoredValue::fromColumn($kind, $before),
                        'user_id' => $fill->user_id,
                        'design_version' => $fill->design_version,
                        'received_at' => $at,
                    ];
                }
            }
        }

        ksort($changes);

        return $changes;
    }
}

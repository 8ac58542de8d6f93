<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Fill;
use App\Models\Layer;
use App\Storage\StoredValue;
use Illuminate\Support\Facades\DB;
use PinYard\Design\FieldKind;

/**
 * Every version of a record, the first first: those that history keeps whole, and those of fills,
 * which are the version before with the one value changed.
 */
final class Versions
{
    /**
     * @param  string  $record  16 bytes
     * @return list<object{version: int, kind: string, user_id: int|null, design_version: int, received_at: string, lon: float, lat: float, altitude: float|null, shape: string|null, values: array<string, mixed>}>
     */
    public static function of(Layer $layer, string $record): array
    {
        $known = [];
        foreach (DB::table('record_history')->where('layer_id', $layer->id)->where('record_id', $record)->get() as $row) {
            $row->values = (array) json_decode($row->values, true);
            $known[$row->version] = $row;
        }
        foreach (self::filled($layer, $record) as $version => $change) {
            $known[$version] ??= $change;
        }
        ksort($known);
        $versions = [];
        $before = null;
        foreach ($known as $row) {
            if (isset($row->field)) {
                if ($before === null) {
                    continue;
                }
                $row = (object) [...(array) $before, 'version' => $row->version, 'kind' => 'change', 'user_id' => $row->user_id, 'design_version' => $row->design_version, 'received_at' => $row->received_at,
                    'values' => [...$before->values, $row->field => $row->value]];
            }
            $versions[] = $before = $row;
        }

        return $versions;
    }

    public static function find(Layer $layer, string $record, int $version): ?object
    {
        foreach (self::of($layer, $record) as $one) {
            if ($one->version === $version) {
                return $one;
            }
        }

        return null;
    }

    /** @return array<int, object> what fills changed in this record, by version */
    private static function filled(Layer $layer, string $record): array
    {
        $changes = [];
        foreach (Fill::query()->where('layer_id', $layer->id)->whereNotNull('written_at')->get() as $fill) {
            $row = DB::table($fill->table())->where('id', $record)->first();
            $kind = FieldKind::tryFrom((string) $fill->kind);
            if ($row === null || $kind === null) {
                continue;
            }
            foreach ([[$row->after_version, $row->after_value, $fill->written_at], [$row->undone_version, $row->before_value, $fill->undone_at]] as [$version, $value, $at]) {
                if ($version !== null) {
                    $changes[(int) $version] = (object) [
                        'version' => (int) $version, 'field' => $fill->field, 'value' => StoredValue::fromColumn($kind, $value), 'user_id' => $fill->user_id, 'design_version' => $fill->design_version, 'received_at' => $at,
                    ];
                }
            }
        }

        return $changes;
    }
}

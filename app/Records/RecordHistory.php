<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Layer;
use App\Storage\Records;
use Illuminate\Support\Facades\DB;
use PinYard\Geo\Wkb;
use PinYard\Record\RecordId;

/** Every version of a record, newest first, with what each changed. */
final class RecordHistory
{
    /** @return list<array<string, mixed>> */
    public static function of(Layer $layer, RecordId $record): array
    {
        $rows = DB::table('record_history as h')->leftJoin('users as u', 'u.id', '=', 'h.user_id')
            ->where(['h.layer_id' => $layer->id, 'h.record_id' => $record->bytes()])->orderBy('h.version')
            ->get(['h.version', 'h.kind', 'h.design_version', 'h.captured_at', 'h.received_at', 'h.lon', 'h.lat', 'h.shape', 'h.altitude', 'h.values', 'u.name as author']);
        $versions = [];
        $before = [];
        $place = null;
        foreach ($rows as $row) {
            $values = (array) json_decode($row->values, true);
            $versions[] = [
                'version' => $row->version,
                'kind' => $row->kind,
                'author' => $row->author,
                'at' => Records::instant($row->received_at),
                'design' => $row->design_version,
                'lon' => $row->lon,
                'lat' => $row->lat,
                'altitude' => $row->altitude,
                'geometry' => Wkb::geoJson($row->shape, $layer->design()->geometry),
                'values' => (object) $values,
                'changed' => array_values(array_filter(array_map(strval(...), array_keys($values)), static fn (string $key): bool => ($before[$key] ?? null) !== $values[$key])),
                'moved' => $place !== null && $place !== [$row->lon, $row->lat, $row->shape],
            ];
            [$before, $place] = [$values, [$row->lon, $row->lat, $row->shape]];
        }

        return array_reverse($versions);
    }
}

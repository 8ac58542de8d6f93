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
        $rows = Versions::of($layer, $record->bytes());
        $authors = DB::table('users')->whereIn('id', array_unique(array_filter(array_column($rows, 'user_id'))))->pluck('name', 'id');
        $versions = [];
        $before = [];
        $place = null;
        foreach ($rows as $row) {
            $values = $row->values;
            $versions[] = [
                'version' => $row->version,
                'kind' => $row->kind,
                'author' => $authors[$row->user_id] ?? null,
                'at' => Records::instant($row->received_at),
                'captured_at' => isset($row->captured_at) ? Records::instant($row->captured_at) : null,
                'clock_off' => $row->clock_off ?? null,
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

<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\StoredRow;
use App\Models\Layer;
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
        $workings = $rows === [] ? [] : CalculationHistory::of($layer, $record->bytes(), $rows[0]->received_at);
        $authors = DB::table('users')
            ->whereIn('id', array_unique(array_filter(array_column($rows, 'user_id'))))
            ->pluck('name', 'id');
        $versions = [];
        $before = [];
        $place = null;
        foreach ($rows as $i => $row) {
            $values = $row->values;
            $version = [
                'version' => $row->version,
                'kind' => $row->kind,
                'author' => $authors[$row->user_id] ?? null,
                'at' => StoredRow::instant($row->received_at),
                'captured_at' => isset($row->captured_at) ? StoredRow::instant($row->captured_at) : null,
                'clock_off' => $row->clock_off ?? null,
                'design' => $row->design_version,
                'lon' => $row->lon,
                'lat' => $row->lat,
                'altitude' => $row->altitude,
                'geometry' => Wkb::geoJson($row->shape, $layer->design()->geometry),
                'values' => (object) $values,
                'changed' => array_values(
                    array_filter(
                        array_map(strval(...), array_keys($values)),
                        static fn (string $key): bool => ($before[$key] ?? null) !== $values[$key],
                    ),
                ),
                'moved' => $place !== null && $place !== [$row->lon, $row->lat, $row->shape],
            ];
            // What was worked out between this version and the next.
            $next = isset($rows[$i + 1]) ? StoredRow::instant($rows[$i + 1]->received_at) : '9';
            $from = $i === 0 ? '' : StoredRow::instant($row->received_at);
            $between = array_filter($workings, static fn (array $w): bool => $w['at'] >= $from && $w['at'] < $next);
            $version['workings'] = array_map(
                static fn (array $w): array => ['was' => (object) $w['was']] + $w,
                array_values($between),
            );
            $versions[] = $version;
            [$before, $place] = [$values, [$row->lon, $row->lat, $row->shape]];
        }

        return array_reverse($versions);
    }
}

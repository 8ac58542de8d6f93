<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Layer;
use App\Storage\Records;
use Illuminate\Support\Facades\DB;

/** Records that were brought in with many others get their first row of history when they are first changed. */
final class FirstHistory
{
    /** @param  list<object>  $rows  of the layer's table, before they are changed */
    public static function keep(Layer $layer, array $rows): void
    {
        $rows = array_filter($rows, static fn (object $row): bool => $row->version === 1);
        if ($rows === []) {
            return;
        }
        $known = DB::table('record_history')->where('layer_id', $layer->id)->whereIn('record_id', array_column($rows, 'id'))->pluck('record_id')->flip();
        $first = [];
        foreach ($rows as $row) {
            if (! isset($known[$row->id])) {
                $first[] = [
                    'layer_id' => $layer->id, 'record_id' => $row->id, 'version' => 1, 'kind' => 'import', 'user_id' => $row->created_by, 'design_version' => $row->design_version, 'captured_at' => $row->collected_at, 'received_at' => $row->received_at,
                    'lon' => $row->lon, 'lat' => $row->lat, 'altitude' => $row->altitude, 'shape' => $row->shape ?? null,
                    'values' => json_encode(Records::values($layer->design($row->design_version), $row), JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
                ];
            }
        }
        foreach (array_chunk($first, 500) as $some) {
            DB::table('record_history')->insert($some);
        }
    }
}

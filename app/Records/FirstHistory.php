<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\StoredRow;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * What was written to very many records at once has no rows of history; a record gets those it lacks when it is first
 * changed after that.
 */
final class FirstHistory
{
    /** @param  list<stdClass>  $rows  of the layer's table, before they are changed */
    public static function keep(Layer $layer, array $rows): void
    {
        // Brought in with others, or taken back with them. (What fills made of a record is in their own tables.)
        $rows = array_filter($rows, static fn (stdClass $row): bool => $row->version === 1 || $row->deleted);
        if ($rows === []) {
            return;
        }
        $known = DB::table('record_history')
            ->where('layer_id', $layer->id)
            ->whereIn('record_id', array_column($rows, 'id'))
            ->selectRaw('record_id, max(version) as latest')
            ->groupBy('record_id')
            ->pluck('latest', 'record_id');
        $first = [];
        foreach ($rows as $row) {
            if (($known[$row->id] ?? 0) >= $row->version) {
                continue;
            }
            if ($row->version > 1) {
                $first[] = self::row($layer, $row, Versions::takenBack($layer, $row));
            } else {
                $first[] = self::row(
                    $layer,
                    $row,
                    (object) [
                        'version' => 1,
                        'kind' => 'import',
                        'user_id' => $row->created_by,
                        'captured_at' => $row->collected_at,
                        'received_at' => $row->received_at,
                    ],
                );
            }
        }
        foreach (array_chunk($first, 500) as $some) {
            DB::table('record_history')->insert($some);
        }
    }

    /** @return array<string, mixed> */
    private static function row(Layer $layer, stdClass $row, stdClass $version): array
    {
        return [
            'layer_id' => $layer->id,
            'record_id' => $row->id,
            'version' => $version->version,
            'kind' => $version->kind,
            'user_id' => $version->user_id,
            'design_version' => $row->design_version,
            'captured_at' => $version->captured_at,
            'received_at' => $version->received_at,
            'lon' => $row->lon,
            'lat' => $row->lat,
            'altitude' => $row->altitude,
            'shape' => $row->shape ?? null,
            'values' => json_encode(
                StoredRow::values($layer->design($row->design_version), $row),
                JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR,
            ),
        ];
    }
}

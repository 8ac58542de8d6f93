<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\StoredRow;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;

/** What became of a record's values without anybody changing it: why, when, and by whose doing. */
final class CalculationHistory
{
    private const MOST = 50;

    /** Causes of which a range says what they did to all records of a layer. */
    private const RANGES = [Cause::Visits, Cause::Areas, Cause::Formulas, Cause::Import, Cause::Design, Cause::Day];

    /**
     * @param  string  $record  16 bytes
     * @param  string  $since  when the record arrived (UTC, as the database has it)
     * @return list<array{cause: string, at: string, by: string|null, all: bool, fields: list<string>,
     *     was: array<string, mixed>}> oldest first
     */
    public static function of(Layer $layer, string $record, string $since): array
    {
        $single = DB::table('record_workings')
            ->where('layer_id', $layer->id)
            ->where('record_id', $record)
            ->orderByDesc('change_number')
            ->limit(self::MOST)
            ->get();
        // The parts of one long work are one; of what happens every night the last says enough.
        $ranges = DB::table('record_changes')
            ->where('layer_id', $layer->id)
            ->where('is_range', true)
            ->whereNotNull('fields')
            ->where('made_at', '>=', $since)
            ->whereIn('cause', array_map(static fn (Cause $c): string => $c->value, self::RANGES))
            ->groupByRaw("if(cause = 'day', cause, coalesce(run, id)), cause, user_id, fields")
            ->selectRaw('cause, user_id, fields, max(made_at) as made_at')
            ->orderByDesc('made_at')
            ->limit(self::MOST)
            ->get();
        $people = DB::table('users')
            ->whereIn('id', $single->pluck('user_id')->merge($ranges->pluck('user_id'))->filter()->unique())
            ->pluck('name', 'id');
        $told = [];
        foreach ([...$single, ...$ranges] as $row) {
            /** @var array<string, mixed> $was */
            $was = isset($row->was) ? (array) json_decode($row->was, true) : [];
            $told[] = [
                'cause' => (string) $row->cause,
                'at' => StoredRow::instant($row->made_at),
                'by' => isset($people[$row->user_id]) ? (string) $people[$row->user_id] : null,
                'all' => ! isset($row->was),
                'fields' => array_map(
                    strval(...),
                    array_values(isset($row->was) ? array_keys($was) : (array) json_decode($row->fields, true)),
                ),
                'was' => $was,
            ];
        }
        usort($told, static fn (array $a, array $b): int => $a['at'] <=> $b['at']);

        return array_slice($told, -self::MOST);
    }
}

<?php

declare(strict_types=1);

namespace App\Records\Stood;

use App\Layers\CarryOver;
use App\Layers\PlaceColumns;
use App\Layers\StoredValue;
use App\Models\Fill;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Formula\Surroundings;
use stdClass;

/** Rows of records that have changed since a day, as they were when it had ended. */
final readonly class StoodRows
{
    private CarryOver $carry;

    private Surroundings $surroundings;

    /** @param  array<array-key, Fill>  $fills  of the layer that were written */
    public function __construct(private Layer $layer, private StoodDay $day, private array $fills)
    {
        $this->carry = new CarryOver($layer);
        $this->surroundings = new Surroundings(
            [],
            new \DateTimeImmutable($day->until, new \DateTimeZone('UTC')),
            new \DateTimeZone($layer->programme->time_zone),
        );
    }

    /**
     * @param  array<array-key, stdClass>  $rows  of the layer's table, as they are now
     * @return list<array<string, mixed>> all with the same columns in the same order
     */
    public function of(array $rows): array
    {
        $ids = array_column($rows, 'id');
        $history = DB::table('record_history')->where('layer_id', $this->layer->id)->whereIn('record_id', $ids)
            ->orderBy('version')->get()->groupBy('record_id');
        $workings = DB::table('record_workings')->where('layer_id', $this->layer->id)->whereIn('record_id', $ids)
            ->orderBy('change_number')->get()->groupBy('record_id');
        $filled = $this->filled($ids);
        $stood = [];
        foreach ($rows as $row) {
            $stood[] = $this->row(
                $row,
                array_values(($history[$row->id] ?? collect())->all()),
                array_values(($workings[$row->id] ?? collect())->all()),
                $filled[$row->id] ?? [],
            );
        }

        return $stood;
    }

    /**
     * @param  list<stdClass>  $versions  whole ones, the first first
     * @param  list<stdClass>  $workings
     * @param  list<stdClass>  $fills  {@see filled()}
     * @return array<string, mixed>
     */
    private function row(stdClass $row, array $versions, array $workings, array $fills): array
    {
        $stood = (array) $row;
        $then = $next = null;
        foreach ($versions as $version) {
            $moment = $this->day->byCollecting ? $version->captured_at : $version->received_at;
            if ($moment < $this->day->until) {
                [$then, $next] = [$version, null];
            } elseif ($then !== null || $next === null) {
                $next ??= $version;
            }
        }
        if ($then === null || $then->version < $row->version) {
            // Deleted since, with others, for which one row stands.
            $stood['deleted'] = 0;
        }
        if ($then !== null && $then->version < $row->version && ! $this->isOnlyFilled($then, $row, $fills)) {
            $stood = [
                ...$stood,
                ...$this->carry->columns(
                    $then->design_version,
                    (array) json_decode($then->values, true),
                    $this->surroundings,
                ),
                ...$this->place($row, $then),
                'altitude' => $then->altitude,
                'version' => $then->version,
                'design_version' => $then->design_version,
                // What was accepted is what it became.
                'accepted_at' => null,
            ];
            foreach ($fills as $fill) {
                if ($fill->version > $then->version && $fill->at < $this->day->until) {
                    $stood[$fill->column] = $fill->value;
                }
            }
        } else {
            foreach (array_reverse($fills) as $fill) {
                if ($fill->at >= $this->day->until) {
                    $stood[$fill->column] = $fill->before;
                }
            }
        }
        if ($then !== null) {
            $stood['deleted'] = $then->kind === 'delete' ? 1 : 0;
        }

        return [...$stood, ...$this->workedOut($workings, $then, $next)];
    }

    /**
     * Whether nothing but fills has changed it since a version: they have no rows of history.
     *
     * @param  list<stdClass>  $fills
     */
    private function isOnlyFilled(stdClass $then, stdClass $row, array $fills): bool
    {
        $since = array_filter($fills, static fn (stdClass $f): bool => $f->version > $then->version);

        return count($since) === $row->version - $then->version;
    }

    /**
     * Calculated values that were worked out anew without a version: of those after the day the first tells what was
     * before it. What was worked out between a version and the end of the day is told by the version after it.
     *
     * @param  list<stdClass>  $workings
     * @return array<string, mixed>
     */
    private function workedOut(array $workings, ?stdClass $then, ?stdClass $next): array
    {
        $values = $between = [];
        foreach ($workings as $working) {
            $was = (array) json_decode($working->was, true);
            if ($next !== null && $working->made_at >= $next->received_at) {
                break;
            }
            if ($working->made_at >= $this->day->until) {
                $values += $was;
            } elseif ($then === null || $working->made_at >= $then->received_at) {
                $between += $was;
            }
        }
        if ($next !== null) {
            $after = (array) json_decode($next->values, true);
            $values += array_intersect_key($after, $between);
        }
        $columns = [];
        foreach ($values as $key => $value) {
            $kind = $this->layer->kindOf((string) $key);
            if ($kind !== null) {
                $columns[$this->layer->columnOf((string) $key)] = StoredValue::toColumn($kind, $value);
            }
        }

        return $columns;
    }

    /** @return array<string, mixed> */
    private function place(stdClass $row, stdClass $then): array
    {
        if ($row->lon === $then->lon && $row->lat === $then->lat && ($row->shape ?? null) === $then->shape) {
            return [];
        }

        return PlaceColumns::of(
            PlaceColumns::shape($then, $this->layer->design()->geometry),
            $this->layer->has_shapes,
        );
    }

    /**
     * What fills, and their undoing, made of records.
     *
     * @param  list<string>  $ids
     * @return array<string, list<stdClass>> by record, in the order of versions: version, column, value, before, at
     */
    private function filled(array $ids): array
    {
        $filled = [];
        foreach ($this->fills as $fill) {
            if ($this->layer->kindOf($fill->field)?->value !== $fill->kind) {
                continue;
            }
            foreach (DB::table($fill->table())->whereIn('id', $ids)->get() as $one) {
                foreach ([
                    [$one->after_version, $one->after_value, $one->before_value, $fill->written_at],
                    [$one->undone_version, $one->before_value, $one->after_value, $fill->undone_at],
                ] as [$version, $value, $before, $at]) {
                    if ($version !== null) {
                        $filled[$one->id][] = (object) [
                            'version' => (int) $version,
                            'column' => $this->layer->columnOf($fill->field),
                            'value' => $value,
                            'before' => $before,
                            'at' => (string) $at,
                        ];
                    }
                }
            }
        }
        foreach ($filled as $id => $some) {
            usort($some, static fn (stdClass $a, stdClass $b): int => $a->version <=> $b->version);
            $filled[$id] = $some;
        }

        return $filled;
    }
}

<?php

declare(strict_types=1);

namespace App\Sync;

use App\Formulas\AfterVisits;
use App\Formulas\Areas;
use App\Models\Layer;
use App\Models\User;
use App\Records\FirstHistory;
use App\Storage\AreasLink;
use App\Storage\BulkInsert;
use App\Storage\CarryOver;
use App\Storage\PlaceColumns;
use App\Storage\StoredValue;
use Illuminate\Support\Facades\DB;
use PinYard\Design\GeometryKind;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Wkb;
use PinYard\Sync\Decision;
use PinYard\Sync\Kind;
use PinYard\Sync\Operation;
use PinYard\Sync\Outcome;
use PinYard\Sync\RecordState;

/** Writes what a batch decided, with few multi-row statements; runs inside the batch's transaction. */
final class BatchWriter
{
    private const ROWS = 500;

    /** @var array<int, list<Decision>> */
    private array $taken = [];

    /** @var array<int, \Closure> */
    private array $areas = [];

    /** @var array<int, CarryOver> */
    private array $carry = [];

    // Of the layer that is being written: the model's own properties cost more than the rest of a record.
    private int $number = 0;

    private \DateTimeZone $zone;

    private bool $shapes = false;

    /** @param  array<int, array<string, object>>  $rows  of records that the batch changes, as they are, by layer and id (16 bytes) */
    public function __construct(private readonly ?User $user, private readonly array $rows = [])
    {
    }

    public function add(Decision $decision): void
    {
        if ($decision->outcome !== Outcome::Refused) {
            $this->taken[$decision->operation->layer][] = $decision;
        }
    }

    /** @param  array<int, Layer>  $layers locked by the caller */
    public function write(array $layers): void
    {
        $now = now()->format('Y-m-d H:i:s.v');
        foreach ($this->taken as $id => $decisions) {
            $layer = $layers[$id];
            $new = $changed = $history = $photos = [];
            $this->number = $layer->change_number;
            $this->zone = new \DateTimeZone($layer->programme->time_zone);
            $this->shapes = $layer->has_shapes;
            foreach ($decisions as $d) {
                $record = $d->operation->record->bytes();
                array_push($photos, ...$this->photoRows($layer, $d, $now));
                if ($d->shape !== null) {
                    [$new[$record], $history[]] = $this->recordRows($layer, $d, $now);

                    continue;
                }
                $before = $new[$record] ?? $changed[$record] ?? (isset($this->rows[$id][$record]) ? (array) $this->rows[$id][$record] : null);
                if ($before === null) {
                    continue;
                }
                // Also where nothing is written: the phone hears what stands, in place of what it had in mind.
                $after = [...$before, 'change_number' => ++$this->number];
                if ($d->writes && $d->after !== null) {
                    [$after, $history[]] = $this->changedRows($layer, $d, $d->after, $after, $now);
                }
                isset($new[$record]) ? $new[$record] = $after : $changed[$record] = $after;
            }
            FirstHistory::keep($layer, array_values(array_intersect_key($this->rows[$id] ?? [], $changed)));
            BulkInsert::into($layer->table(), self::sameColumns(array_values($new)));
            foreach (array_chunk(self::sameColumns(array_values($changed)), self::ROWS) as $some) {
                DB::table($layer->table())->upsert($some, ['id']);
            }
            BulkInsert::into('record_history', self::sameColumns($history));
            BulkInsert::into('attachments', $photos);
            $layer->change_number = $this->number;
            $layer->save();
        }
        foreach (array_keys($this->taken) as $id) {
            AreasLink::changed($layers[$id]);
        }
        // After all of them: a visit may come in one batch with the record that it belongs to.
        foreach ($this->taken as $id => $decisions) {
            $visited = $layers[$layers[$id]->visits_of ?? 0] ?? null;
            if ($visited !== null) {
                AfterVisits::of($visited, array_values(array_filter(array_map(fn (Decision $d): ?string => $d->operation->visited?->bytes() ?? $this->rows[$id][$d->operation->record->bytes()]->parent ?? null, $decisions))));
            }
        }
    }

    /**
     * @param  array<string, mixed>  $row
     * @return array{array<string, mixed>, array<string, mixed>}
     */
    private function changedRows(Layer $layer, Decision $d, RecordState $after, array $row, string $now): array
    {
        $op = $d->operation;
        $columns = [];
        foreach ($after->values as $key => $value) {
            $kind = $layer->kindOf($key);
            if ($kind !== null) {
                $columns[$layer->columnOf($key)] = StoredValue::toColumn($kind, $value);
            }
        }
        $shape = $after->shape;
        // A record that has not been drawn yet keeps what it had: a line of former days may be wanted again.
        $place = $shape->kind === $layer->design()->geometry ? PlaceColumns::of($shape, $layer->has_shapes) : [];
        $moved = $op->kind === Kind::Move || $op->geometry !== null;

        return [[
            ...$row, ...$columns, ...$place, 'altitude' => $after->altitude, 'version' => $after->version, 'design_version' => $layer->design_version, 'deleted' => (int) $after->deleted,
            ...($moved && $op->fix->accuracy !== null ? ['accuracy' => $op->fix->accuracy] : []),
        ], [
            ...$this->historyRow($layer, $op, $now), 'version' => $after->version, 'kind' => $op->kind === Kind::Move ? 'change' : $op->kind->value, 'design_version' => $layer->design_version,
            'lon' => $shape->place->lon, 'lat' => $shape->place->lat, 'altitude' => $after->altitude,
            'shape' => $shape->kind === GeometryKind::Point ? ($row['shape'] ?? null) : Wkb::column($shape),
            'values' => json_encode((object) $after->values, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
        ]];
    }

    /** @return array<string, mixed> */
    private function historyRow(Layer $layer, Operation $op, string $now): array
    {
        return [
            'layer_id' => $layer->id, 'record_id' => $op->record->bytes(), 'kind' => 'add', 'op' => $op->op->bytes(), 'user_id' => $this->user?->id, 'captured_at' => $op->capturedAt->format('Y-m-d H:i:s.v'), 'received_at' => $now,
            'device' => $op->device->bytes(), 'clock_off' => $op->clockOff === 0 ? null : $op->clockOff,
        ];
    }

    /** @return array{array<string, mixed>, array<string, mixed>} */
    private function recordRows(Layer $layer, Decision $d, string $now): array
    {
        $op = $d->operation;
        $shape = $d->shape ?? throw new \LogicException('an applied operation has a place');
        $in = (new Surroundings([], $op->capturedAt, $this->zone, areas: $this->areas[$layer->id] ??= Areas::in($layer->programme)))->at($shape, $op->altitudeFor($design = $layer->design()));
        $altitude = $op->altitudeFor($design);
        $keep = $design->fix;
        $columns = ($this->carry[$layer->id] ??= new CarryOver($layer))->columns($op->design, $d->values, $in);
        $captured = $op->capturedAt->format('Y-m-d H:i:s.v');

        return [[
            'id' => $op->record->bytes(),
            ...PlaceColumns::of($shape, $this->shapes),
            'version' => 1,
            'change_number' => ++$this->number,
            'design_version' => $op->design,
            'created_by' => $this->user?->id,
            'collected_at' => $captured,
            'received_at' => $now,
            'accuracy' => $op->fix->accuracy,
            'altitude' => $altitude,
            'satellites' => $keep->keeps('satellites') ? $op->fix->satellites : null,
            'fix_type' => $keep->keeps('type') ? $op->fix->type : null,
            'fix_at' => $keep->keeps('time') && $op->fix->at !== null ? strtr($op->fix->at, ['T' => ' ', 'Z' => '']) : null,
            ...($op->visited === null ? [] : ['parent' => $op->visited->bytes()]),
            ...$columns,
        ], [
            ...$this->historyRow($layer, $op, $now),
            'version' => 1,
            'design_version' => $op->design,
            'lon' => $shape->place->lon,
            'lat' => $shape->place->lat,
            'altitude' => $altitude,
            'shape' => $shape->kind === GeometryKind::Point ? null : Wkb::column($shape),
            'values' => json_encode($d->values, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
        ]];
    }

    /** @return list<array<string, mixed>> */
    private function photoRows(Layer $layer, Decision $d, string $now): array
    {
        $rows = [];
        foreach ($d->files as $i => $photo) {
            $rows[] = [
                'id' => $photo->id->bytes(),
                'layer_id' => $layer->id,
                'record_id' => $d->operation->record->bytes(),
                'position' => $i,
                'slot' => $photo->slot,
                'name' => $photo->name,
                'type' => $photo->type->value,
                'bytes' => $photo->bytes,
                'sha256' => $photo->sha256,
                'state' => 'on_way',
                'created_by' => $this->user?->id,
                'created_at' => $now,
            ];
        }

        return $rows;
    }

    /**
     * Operations of different design versions carry different fields; one statement needs the same columns in all rows.
     *
     * @param  list<array<string, mixed>>  $rows
     * @return list<array<string, mixed>>
     */
    private static function sameColumns(array $rows): array
    {
        if ($rows === []) {
            return [];
        }
        $all = array_fill_keys(array_keys(array_merge(...$rows)), null);

        return array_map(static fn (array $row): array => [...$all, ...$row], $rows);
    }
}

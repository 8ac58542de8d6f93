<?php

declare(strict_types=1);

namespace App\Sync;

use App\Formulas\AreaLookup;
use App\Layers\BulkInsert;
use App\Layers\CarryOver;
use App\Layers\PlaceColumns;
use App\Layers\StoredValue;
use App\Models\Layer;
use App\Models\User;
use App\Records\Cause;
use App\Records\RecordWriter;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Sync\Decision;
use PinYard\Sync\Kind;
use PinYard\Sync\Operation;
use PinYard\Sync\Outcome;
use PinYard\Sync\RecordState;
use stdClass;

/** Writes what a batch decided, with few multi-row statements; runs inside the batch's transaction. */
final class BatchWriter
{
    /** @var array<int, list<Decision>> */
    private array $taken = [];

    /** @var array<int, \Closure> */
    private array $areas = [];

    /** @var array<int, CarryOver> */
    private array $carry = [];

    // Of the layer that is being written: the model's own properties cost more than the rest of a record.
    private RecordWriter $writer;

    private \DateTimeZone $zone;

    private LayerDesign $design;

    private int $layer;

    private int $version;

    private bool $shapes = false;

    /** @var array<string, FieldKind|false> by key; false for one that has no column */
    private array $kinds = [];

    /** @var array<string, string> names of columns by key */
    private array $columns = [];

    private readonly ?int $by;

    /**
     * @param  array<int, array<string, stdClass>>  $rows  of records that the batch changes, as they are, by layer, id
     *     (16 bytes)
     */
    public function __construct(
        ?User $user,
        private readonly array $rows = [],
        private readonly Cause $cause = Cause::Sync,
    ) {
        $this->by = $user?->id;
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
        $writers = [];
        foreach ($this->taken as $id => $decisions) {
            $layer = $layers[$id];
            $new = $changed = $history = $photos = [];
            $visited = $layer->visits_of === null ? null : $layers[$layer->visits_of] ?? null;
            $this->writer = $writers[] = RecordWriter::on($layer, $visited, $this->cause, $this->by);
            $this->zone = new \DateTimeZone($layer->programme->time_zone);
            $this->shapes = $layer->has_shapes;
            $this->kinds = $this->columns = [];
            $this->design = $layer->design();
            $this->layer = $layer->id;
            $this->version = $layer->design_version;
            foreach ($decisions as $d) {
                $record = $d->operation->record->bytes();
                array_push($photos, ...$this->photoRows($layer, $d, $now));
                if ($d->shape !== null) {
                    [$new[$record], $history[]] = $this->recordRows($layer, $d, $now);

                    continue;
                }
                $before =
                    $new[$record] ??
                    ($changed[$record] ??
                        (isset($this->rows[$id][$record]) ? (array) $this->rows[$id][$record] : null));
                if ($before === null) {
                    continue;
                }
                // Also where nothing is written: the phone hears what stands, in place of what it had in mind.
                $after = [...$before, 'change_number' => $this->writer->next()];
                if ($d->writes && $d->after !== null) {
                    [$after, $history[]] = $this->changedRows($layer, $d, $d->after, $after, $now);
                }
                isset($new[$record]) ? ($new[$record] = $after) : ($changed[$record] = $after);
            }
            $before = array_values(array_intersect_key($this->rows[$id] ?? [], $changed));
            $this->writer->write(array_values($new), array_values($changed), $before, $history);
            BulkInsert::into('attachments', $photos);
        }
        // After all of them: a visit may come in one batch with the record that it belongs to. What is visited comes
        // first.
        usort(
            $writers,
            static fn (RecordWriter $a, RecordWriter $b): int => ($a->layer->visits_of === null ? 0 : 1) <=>
                ($b->layer->visits_of === null ? 0 : 1),
        );
        foreach ($writers as $writer) {
            $writer->close();
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
            $kind = $this->kinds[$key] ??= $layer->kindOf($key) ?? false;
            if ($kind !== false) {
                $columns[$this->columns[$key] ??= $layer->columnOf($key)] = StoredValue::toColumn($kind, $value);
            }
        }
        $shape = $after->shape;
        // A record that has not been drawn yet keeps what it had: a line of former days may be wanted again.
        $place = $shape->kind === $this->design->geometry ? PlaceColumns::of($shape, $this->shapes) : [];
        // The details of a fix are those of a place: they come with it, and stay with the one that stands.
        $keep = $this->design->fix;
        $fix =
            $place !== [] && self::isElsewhere($row, $shape)
                ? [
                    'accuracy' => $op->fix->accuracy,
                    'satellites' => $keep->keeps('satellites') ? $op->fix->satellites : null,
                    'fix_type' => $keep->keeps('type') ? $op->fix->type : null,
                    'fix_at' => $keep->keeps('time') && $op->fix->at !== null
                            ? strtr($op->fix->at, ['T' => ' ', 'Z' => ''])
                            : null,
                ]
                : [];

        return [
            [
                ...$row,
                ...$columns,
                ...$place,
                'altitude' => $after->altitude,
                'version' => $after->version,
                'design_version' => $this->version,
                'deleted' => (int) $after->deleted,
                ...$fix,
            ],
            [
                ...$this->historyRow($op, $now),
                'version' => $after->version,
                'kind' => $op->kind === Kind::Move ? 'change' : $op->kind->value,
                'design_version' => $this->version,
                'lon' => $shape->place->lon,
                'lat' => $shape->place->lat,
                'altitude' => $after->altitude,
                'shape' => $shape->kind === GeometryKind::Point ? $row['shape'] ?? null : Wkb::column($shape),
                'values' => json_encode((object) $after->values, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
            ],
        ];
    }

    /** @param  array<string, mixed>  $row  the record as it was */
    private static function isElsewhere(array $row, Shape $shape): bool
    {
        return abs((float) $row['lon'] - $shape->place->lon) > 1e-6 ||
            abs((float) $row['lat'] - $shape->place->lat) > 1e-6;
    }

    /** @return array<string, mixed> */
    private function historyRow(Operation $op, string $now): array
    {
        return [
            'layer_id' => $this->layer,
            'record_id' => $op->record->bytes(),
            'kind' => 'add',
            'op' => $op->op->bytes(),
            'user_id' => $this->by,
            'captured_at' => $op->capturedAt->format('Y-m-d H:i:s.v'),
            'received_at' => $now,
            'device' => $op->device->bytes(),
            'clock_off' => $op->clockOff === 0 ? null : $op->clockOff,
        ];
    }

    /** @return array{array<string, mixed>, array<string, mixed>} */
    private function recordRows(Layer $layer, Decision $d, string $now): array
    {
        $op = $d->operation;
        $shape = $d->shape ?? throw new \LogicException('an applied operation has a place');
        $in = (new Surroundings(
            [],
            $op->capturedAt,
            $this->zone,
            areas: ($this->areas[$this->layer] ??= AreaLookup::in($layer->programme)),
        ))->at($shape, $altitude = $op->altitudeFor($this->design));
        $keep = $this->design->fix;
        $columns = ($this->carry[$this->layer] ??= new CarryOver($layer))->columns($op->design, $d->values, $in);
        $captured = $op->capturedAt->format('Y-m-d H:i:s.v');

        return [
            [
                'id' => $op->record->bytes(),
                ...PlaceColumns::of($shape, $this->shapes),
                'version' => 1,
                'change_number' => $this->writer->next(),
                'design_version' => $op->design,
                'created_by' => $this->by,
                'collected_at' => $captured,
                'received_at' => $now,
                'accuracy' => $op->fix->accuracy,
                'altitude' => $altitude,
                'satellites' => $keep->keeps('satellites') ? $op->fix->satellites : null,
                'fix_type' => $keep->keeps('type') ? $op->fix->type : null,
                'fix_at' => $keep->keeps('time') && $op->fix->at !== null
                    ? strtr($op->fix->at, ['T' => ' ', 'Z' => '']) : null,
                ...$op->visited === null ? [] : ['parent' => $op->visited->bytes()],
                ...$columns,
            ],
            [
                ...$this->historyRow($op, $now),
                'version' => 1,
                'design_version' => $op->design,
                'lon' => $shape->place->lon,
                'lat' => $shape->place->lat,
                'altitude' => $altitude,
                'shape' => $shape->kind === GeometryKind::Point ? null : Wkb::column($shape),
                'values' => json_encode($d->values, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
            ],
        ];
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
                'created_by' => $this->by,
                'created_at' => $now,
            ];
        }

        return $rows;
    }
}

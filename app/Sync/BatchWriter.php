<?php

declare(strict_types=1);

namespace App\Sync;

use App\Formulas\AfterVisits;
use App\Formulas\Areas;
use App\Models\Layer;
use App\Models\User;
use App\Storage\AreasLink;
use App\Storage\CarryOver;
use App\Storage\PlaceColumns;
use Illuminate\Support\Facades\DB;
use PinYard\Design\GeometryKind;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Wkb;
use PinYard\Sync\Decision;
use PinYard\Sync\Outcome;

/** Writes what a batch decided, with few multi-row statements; runs inside the batch's transaction. */
final class BatchWriter
{
    private const ROWS = 500;

    /** @var array<int, list<Decision>> */
    private array $applied = [];

    /** @var array<int, \Closure> */
    private array $areas = [];

    /** @var array<int, CarryOver> */
    private array $carry = [];

    public function __construct(private readonly ?User $user)
    {
    }

    public function add(Decision $decision): void
    {
        if ($decision->outcome === Outcome::Applied) {
            $this->applied[$decision->operation->layer][] = $decision;
        }
    }

    /** @param  array<int, Layer>  $layers locked by the caller */
    public function write(array $layers): void
    {
        $now = now()->format('Y-m-d H:i:s.v');
        foreach ($this->applied as $id => $decisions) {
            $layer = $layers[$id];
            $records = [];
            $history = [];
            $photos = [];
            foreach ($decisions as $d) {
                array_push($photos, ...$this->photoRows($layer, $d, $now));
                [$records[], $history[]] = $this->recordRows($layer, $d, $now);
            }
            $this->insert($layer->table(), self::sameColumns($records));
            $this->insert('record_history', $history);
            $this->insert('attachments', $photos);
            $layer->save();
        }
        foreach (array_keys($this->applied) as $id) {
            AreasLink::changed($layers[$id]);
        }
        // After all of them: a visit may come in one batch with the record that it belongs to.
        foreach ($this->applied as $id => $decisions) {
            $visited = $layers[$layers[$id]->visits_of ?? 0] ?? null;
            if ($visited !== null) {
                AfterVisits::of($visited, array_map(static fn (Decision $d): string => $d->operation->visited?->bytes() ?? '', $decisions));
            }
        }
    }

    /** @return array{array<string, mixed>, array<string, mixed>} */
    private function recordRows(Layer $layer, Decision $d, string $now): array
    {
        $op = $d->operation;
        $shape = $d->shape ?? throw new \LogicException('an applied operation has a place');
        $in = (new Surroundings([], $op->capturedAt, new \DateTimeZone($layer->programme->time_zone), areas: $this->areas[$layer->id] ??= Areas::in($layer->programme)))->at($shape, $op->altitudeFor($layer->design()));
        $design = $layer->design();
        $altitude = $op->altitudeFor($design);
        $keep = $design->fix;
        $columns = ($this->carry[$layer->id] ??= new CarryOver($layer))->columns($op->design, $d->values, $in);
        $captured = $op->capturedAt->format('Y-m-d H:i:s.v');

        return [[
            'id' => $op->record->bytes(),
            ...PlaceColumns::of($shape, $layer->has_shapes),
            'version' => 1,
            'change_number' => ++$layer->change_number,
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
            'layer_id' => $layer->id,
            'record_id' => $op->record->bytes(),
            'version' => 1,
            'op' => $op->op->bytes(),
            'user_id' => $this->user?->id,
            'design_version' => $op->design,
            'captured_at' => $captured,
            'received_at' => $now,
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
        $all = array_fill_keys(array_keys(array_merge(...$rows)), null);

        return array_map(static fn (array $row): array => [...$all, ...$row], $rows);
    }

    /** @param  list<array<string, mixed>>  $rows */
    private function insert(string $table, array $rows): void
    {
        foreach (array_chunk($rows, self::ROWS) as $some) {
            DB::table($table)->insert($some);
        }
    }
}

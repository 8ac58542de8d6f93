<?php

declare(strict_types=1);

namespace App\Storage;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Column;
use PinYard\Design\DesignChange;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Problem;
use PinYard\Refused;

/** Saves designs: a new layer with its table, or the next version of a layer's design. */
final class Designs
{
    public static function createLayer(Programme $programme, LayerDesign $design, ?User $by): Layer
    {
        $layer = new Layer(['title' => $design->title, 'design_version' => 1, 'columns' => self::kinds($design)]);
        $layer->programme()->associate($programme);
        $layer->save();
        try {
            // Making a table commits by itself in MariaDB, so a failure afterwards is cleaned up by hand.
            LayerTable::make($layer, array_map(Column::of(...), $design->valueFields()));
            self::keep($layer, 1, $design, $by);
        } catch (\Throwable $e) {
            $layer->delete();
            throw $e;
        }

        return $layer;
    }

    /**
     * @param  int  $base  the version that the coordinator began from
     *
     * @throws Refused
     */
    public static function saveNext(Layer $layer, LayerDesign $design, int $base, ?User $by): Layer
    {
        // A wider table does no harm if the save is refused after all, so it comes first:
        // altering a table inside the transaction would end it.
        $fresh = Layer::query()->findOrFail($layer->id);
        $change = self::change($fresh, $design);
        self::refuseStale($fresh, $base);
        LayerTable::widen($fresh, $change->newColumns);

        return DB::transaction(function () use ($fresh, $design, $base, $by): Layer {
            $layer = Layer::query()->lockForUpdate()->findOrFail($fresh->id);
            self::refuseStale($layer, $base);
            $layer->fill([
                'title' => $design->title,
                'design_version' => $base + 1,
                'columns' => $layer->columns + self::kinds($design),
            ]);
            $layer->change_number++;
            $layer->save();
            self::keep($layer, $base + 1, $design, $by);

            return $layer;
        });
    }

    /** @throws Refused */
    public static function change(Layer $layer, LayerDesign $design): DesignChange
    {
        $kept = array_map(FieldKind::from(...), $layer->columns);
        $change = DesignChange::between($layer->design(), $design, $kept, static fn (Field $f, array $codes): array => Records::of($layer)
            ->whereIn($f->column(), $codes)->groupBy($f->column())
            ->selectRaw("{$f->column()} as code, count(*) as n")->pluck('n', 'code')
            ->map(static fn (mixed $n): int => (int) $n)->all());
        if ($change->problems !== []) {
            throw Refused::for($change->problems);
        }

        return $change;
    }

    private static function refuseStale(Layer $layer, int $base): void
    {
        if ($layer->design_version !== $base) {
            throw Refused::for([new Problem('design_stale', null, $base, ['base' => $base, 'current' => $layer->design_version])]);
        }
    }

    private static function keep(Layer $layer, int $version, LayerDesign $design, ?User $by): void
    {
        $layer->designs()->create(['version' => $version, 'document' => $design->toArray(), 'created_by' => $by?->id]);
    }

    /** @return array<string, string> */
    private static function kinds(LayerDesign $design): array
    {
        $kinds = [];
        foreach ($design->valueFields() as $field) {
            $kinds[$field->key] = $field->valueKind()->value;
        }

        return $kinds;
    }
}

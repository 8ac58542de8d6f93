<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Slice;
use App\Models\User;
use App\Records\VisibleRecords;
use PinYard\Carto\Marks\Density;
use PinYard\Carto\Marks\NumberField;
use PinYard\Geo\ZOrder;
use PinYard\Refused;

/** What somebody asks of the records in the cells of a grid before a map says it. */
final readonly class AskedCells
{
    /** Where nothing is said cells are as large as a part of the layer's longer side. */
    private const ACROSS = 24;

    /** @param  Density  $density  without classes yet */
    private function __construct(public VisibleRecords $records, public Density $density)
    {
    }

    /** @throws Refused */
    public static function of(mixed $in, Layer $layer, User $person): self
    {
        $in = is_array($in) ? $in : [];
        $field = isset($in['field']) ? NumberField::of($in['field'], $layer->design()) : null;
        $slice = is_int($in['slice'] ?? null)
            ? Slice::query()->where('layer_id', $layer->id)->find($in['slice']) ??
                throw Refused::because('slice_unknown', 'cells/slice', $in['slice'], ['layer' => $layer->title])
            : null;
        $records = VisibleRecords::for($person, $layer);
        if ($slice !== null) {
            $records = $records->filtered($layer->filter($slice->filter));
        }
        if ($field !== null && ! $records->shows($field->key)) {
            throw Refused::because('look_field', 'cells/field', $field->key);
        }
        $records = $records->showing($field === null ? [] : [$field->key]);

        return new self(
            $records,
            Density::unclassed($field, isset($in['bits']) ? Density::bits($in['bits']) : self::fitting($records)),
        );
    }

    public function cells(): DensityCells
    {
        return new DensityCells($this->records, $this->density);
    }

    private static function fitting(VisibleRecords $records): int
    {
        $ends = $records->rows()->selectRaw('min(lon) as w, min(lat) as s, max(lon) as e, max(lat) as n')->first();
        $area = $records->layer->programme->area();
        // Before there are records, or while there is but one place, the programme's area says how large they may be.
        [$w, $s, $e, $n] = $ends === null || $ends->w === null || ($ends->w === $ends->e && $ends->s === $ends->n)
            ? $area->toArray()
            : [(float) $ends->w, (float) $ends->s, (float) $ends->e, (float) $ends->n];
        [$west, $north] = ZOrder::steps($w, $n);
        // An area over the antimeridian goes on beyond it.
        [$east, $south] = ZOrder::steps($e, $s);
        $across = $east >= $west ? $east - $west : $east - $west + 2 ** ZOrder::BITS;
        $side = max(1, $across, $south - $north) / self::ACROSS;

        return max(Density::FINEST, min(Density::COARSEST, (int) round(log($side, 2))));
    }
}

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
        if ($ends === null || $ends->w === null) {
            return Density::FINEST;
        }
        [$west, $north] = ZOrder::steps((float) $ends->w, (float) $ends->n);
        [$east, $south] = ZOrder::steps((float) $ends->e, (float) $ends->s);
        $side = max(1, $east - $west, $south - $north) / self::ACROSS;

        return max(Density::FINEST, min(Density::COARSEST, (int) round(log($side, 2))));
    }
}

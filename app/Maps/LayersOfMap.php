<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Map;
use App\Models\Slice;
use Illuminate\Database\Eloquent\Collection;
use PinYard\Carto\LayerOnMap;
use PinYard\Design\LayerDesign;

/** What the parts of a map are made of and that is there: layers that it shows or counts, slices. */
final readonly class LayersOfMap
{
    /** @var Collection<array-key, Layer> by number */
    private Collection $layers;

    /** @var Collection<array-key, Slice> by number */
    private Collection $slices;

    public function __construct(Map $map)
    {
        $of = array_filter(array_map(static fn (array $l): ?array => $l['look']['of'] ?? null, $map->layers));
        $layers = $of === [] ? $map->mapped : $map->mapped->merge($map->counted);
        foreach ($layers as $layer) {
            if ($layer->programme_id === $map->programme_id) {
                $layer->setRelation('programme', $map->programme);
            }
        }
        $layers->loadMissing('programme');
        $this->layers = $layers
            // A programme in the bin holds its layers as they were.
            ->filter(static fn (Layer $l): bool => $l->programme->deleted_at === null)
            ->keyBy('id');
        $wanted = array_filter([
            ...array_column($map->layers, 'slice'),
            ...array_column($of, 'slice'),
            ...array_column($of, 'share'),
            ...array_column($map->searches ?? [], 'slice'),
        ]);
        $this->slices = $wanted === []
            ? new Collection
            : Slice::query()->whereIn('id', $wanted)->get()->keyBy('id');
    }

    public function layer(int $number): ?Layer
    {
        return $this->layers->get($number);
    }

    public function slice(?int $number, ?Layer $of): ?Slice
    {
        $slice = $number === null ? null : $this->slices->get($number);

        return $slice?->layer_id === $of?->id ? $slice : null;
    }

    /**
     * A part as it is stored. What its areas are coloured by may have gone since: then they have one mark.
     *
     * @param  array<string, mixed>  $document
     */
    public function part(array $document, Layer $layer): LayerOnMap
    {
        $of = is_array($document['look']['of'] ?? null) ? $document['look']['of'] : [];

        return LayerOnMap::stored(
            $document,
            $layer->design(),
            fn (int $number): ?LayerDesign => $this->hasSlices($of, $number)
                ? $this->layer($number)?->design()
                : null,
        );
    }

    /**
     * Without its slice more would be counted than was meant.
     *
     * @param  array<string, mixed>  $of
     */
    private function hasSlices(array $of, int $layer): bool
    {
        foreach (['slice', 'share'] as $which) {
            $slice = $of[$which] ?? null;
            if ($slice !== null && $this->slice($slice, $this->layer($layer)) === null) {
                return false;
            }
        }

        return true;
    }
}

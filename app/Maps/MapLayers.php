<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Slice;
use App\Models\User;
use App\Records\VisibleRecords;
use PinYard\Carto\LayerOnMap;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/**
 * Reads the layers of a map as they are saved. Whoever puts a layer on a map sees something of it, in whatever
 * programme it is; each of those who look at the map see of it what they may. What is on it already stays, whoever
 * saves it.
 */
final readonly class MapLayers
{
    /** @var array<string, array<string, mixed>> what is on the map now, by part */
    private array $stand;

    public function __construct(private User $person, private Programme $programme, ?Map $map)
    {
        $this->stand = array_column($map->layers ?? [], null, 'id');
    }

    /**
     * @return list<array<string, mixed>> as it is stored
     *
     * @throws Refused naming each part and what is wrong with it
     */
    public function read(mixed $in): array
    {
        if (! is_array($in) || ! array_is_list($in)) {
            throw Refused::because('must_be_list', 'layers');
        }
        if (count($in) > LayerOnMap::MOST) {
            throw Refused::because('map_layers_many', 'layers', count($in), ['most' => LayerOnMap::MOST]);
        }
        $layers = Layer::query()
            ->whereIn('id', array_filter([...array_column($in, 'layer'), ...self::counted($in, 'layer')], is_int(...)))
            ->with('programme')
            ->get()
            ->keyBy('id');
        $slices = Slice::query()
            ->whereIn(
                'id',
                array_filter(
                    [
                        ...array_column($in, 'slice'),
                        ...self::counted($in, 'slice'),
                        ...self::counted($in, 'share'),
                    ],
                    is_int(...),
                ),
            )
            ->pluck('layer_id', 'id');
        $read = [];
        $problems = [];
        foreach ($in as $i => $one) {
            try {
                $document = $this->one(is_array($one) ? $one : [], $i, $layers->all(), $slices->all());
                if (isset($read[$document['id']])) {
                    $document['id'] = LayerOnMap::newId();
                }
                $read[$document['id']] = $document;
            } catch (Refused $e) {
                array_push($problems, ...$e->problems);
            }
        }

        return $problems === [] ? array_values($read) : throw Refused::for($problems);
    }

    /**
     * What the looks of areas say of the records that they count.
     *
     * @param  array<mixed>  $in
     * @return list<mixed>
     */
    private static function counted(array $in, string $what): array
    {
        $found = [];
        foreach ($in as $one) {
            $of = self::of($one);
            if ($of !== null) {
                $found[] = $of[$what] ?? null;
            }
        }

        return $found;
    }

    /** @return array<mixed>|null */
    private static function of(mixed $part): ?array
    {
        $look = is_array($part) ? $part['look'] ?? null : null;
        $of = is_array($look) ? $look['of'] ?? null : null;

        return is_array($of) ? $of : null;
    }

    /**
     * @param  array<mixed>  $in
     * @param  array<int, Layer>  $layers
     * @param  array<int, int>  $slices  their layers
     * @return array<string, mixed>
     */
    private function one(array $in, int $i, array $layers, array $slices): array
    {
        $number = $in['layer'] ?? null;
        $id = is_string($in['id'] ?? null) ? $in['id'] : '';
        $stands = isset($this->stand[$id]) && $this->stand[$id]['layer'] === $number ? $this->stand[$id] : null;
        $layer = is_int($number) ? $layers[$number] ?? null : null;
        if ($layer === null) {
            // A layer in the bin keeps what was said of it, for it may come back.
            return $stands ?? throw Refused::because(
                'map_layer_unknown',
                "layers/$i/layer",
                is_scalar($number) ? $number : null,
            );
        }
        if (! $this->sees($layer)) {
            // Whether there is such a layer is not told to whoever may not know.
            return $stands === null
                ? throw Refused::because('map_layer_unknown', "layers/$i/layer", $layer->id)
                : $this->unchanged($in, $stands, $i);
        }
        if (isset($in['slice']) && (! is_int($in['slice']) || ($slices[$in['slice']] ?? null) !== $layer->id)) {
            throw Refused::because('slice_unknown', "layers/$i/slice", is_scalar($in['slice']) ? $in['slice'] : null, [
                'layer' => $layer->title,
            ]);
        }

        $of = self::of($in);
        $same = $of !== null && $stands !== null && json_encode($of) === json_encode(self::of($stands));
        $counted = $of === null ? null : $layers[is_int($of['layer'] ?? null) ? $of['layer'] : 0] ?? null;
        if ($same && $counted === null) {
            // What areas are coloured by lies in the bin and may come back.
            return ['look' => $stands['look']] + self::stored(
                LayerOnMap::read(array_diff_key($in, ['look' => 1]), $layer->id, $layer->design(), "layers/$i"),
                $layer,
            );
        }
        foreach ($same ? [] : ['slice', 'share'] as $which) {
            $slice = $of[$which] ?? null;
            if ($slice !== null && (! is_int($slice) || ($slices[$slice] ?? null) !== $counted?->id)) {
                throw Refused::because(
                    'slice_unknown',
                    "layers/$i/look/of/$which",
                    is_scalar($slice) ? $slice : null,
                    ['layer' => $counted->title ?? ''],
                );
            }
        }

        return self::stored(
            LayerOnMap::read(
                $in,
                $layer->id,
                $layer->design(),
                "layers/$i",
                // As with layers themselves, only who sees one can let a map tell of it.
                fn (int $number): ?LayerDesign => $counted?->id === $number && ($same || $this->sees($counted))
                    ? $counted->design()
                    : null,
            ),
            $layer,
        );
    }

    /** @return array<string, mixed> with what the layer is called today, to be told when it is no more */
    public static function stored(LayerOnMap $part, Layer $layer): array
    {
        return $part->toArray() + ['called' => $layer->title];
    }

    private function sees(Layer $layer): bool
    {
        if ($layer->programme_id === $this->programme->id) {
            $layer->setRelation('programme', $this->programme);
        }
        if ($layer->programme->deleted_at !== null) {
            return false;
        }
        $records = VisibleRecords::for($this->person, $layer);

        // Of those that are told in figures alone areas can be coloured.
        return ! $records->seesNothing() || $records->counted() !== null;
    }

    /**
     * What somebody else put there that is closed to this person may be moved and taken out, but not told more of.
     *
     * @param  array<mixed>  $in
     * @param  array<string, mixed>  $stands
     * @return array<string, mixed>
     */
    private function unchanged(array $in, array $stands, int $i): array
    {
        foreach ($stands as $key => $value) {
            if (array_key_exists($key, $in) && json_encode($in[$key]) !== json_encode($value)) {
                throw Refused::because('map_layer_not_yours', "layers/$i/$key", null, ['layer' => $stands['called']]);
            }
        }

        return $stands;
    }
}

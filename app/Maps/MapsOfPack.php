<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Slice;
use PinYard\Carto\LayerOnMap;

/** The maps of a programme, as a phone draws them from its own records; layers of other programmes are not there. */
final class MapsOfPack
{
    /** @return list<array<string, mixed>> */
    public static function of(Programme $programme): array
    {
        $maps = $programme->maps()->orderBy('title')->get();
        $layers = $programme->layers()->get()->keyBy('id');
        $slices = Slice::query()->whereIn('layer_id', $layers->keys())->get()->keyBy('id');
        $told = [];
        foreach ($maps as $map) {
            $parts = [];
            foreach ($map->layers as $document) {
                $layer = $layers[$document['layer']] ?? null;
                $slice = $slices[$document['slice'] ?? 0] ?? null;
                // Without its slice a part would show more than it was made to show.
                if ($layer instanceof Layer && ($document['slice'] === null || $slice !== null)) {
                    $parts[] = self::part(LayerOnMap::stored($document, $layer->design()), $layer, $slice);
                }
            }
            // A map of which nothing is on the phone is not there, either.
            if ($parts !== []) {
                $told[] = [
                    'id' => $map->id,
                    'title' => $map->title,
                    'layers' => $parts,
                    'extent' => $map->extent,
                    'viewpoints' => $map->viewpoints ?? [],
                ];
            }
        }

        return $told;
    }

    /** @return array<string, mixed> */
    private static function part(LayerOnMap $part, Layer $layer, ?Slice $slice): array
    {
        return [
            'id' => $part->id,
            'layer' => $layer->id,
            'title' => $part->title ?? $layer->title,
            'look' => $part->look->toArray(),
            'style' => $part->style(LayerPage::source($part->id)),
            'label' => $part->label?->toArray(),
            'slice' => $slice === null ? null : ['name' => $slice->name, 'filter' => $slice->filter],
            'visible' => $part->visible,
            'in_legend' => $part->inLegend,
        ];
    }
}

<?php

declare(strict_types=1);

namespace App\Plan;

use App\Models\Audience;
use App\Models\Board;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Database\Eloquent\Collection;

/** Maps and boards of a programme, and whether they are shown to more people than their layers. */
final class ShownThings
{
    /** @return Collection<int, Layer> */
    public static function layers(Programme $programme): Collection
    {
        return $programme->layers()->with('slices')->orderBy('title')->get()
            ->each(static fn (Layer $l) => $l->setRelation('programme', $programme));
    }

    /**
     * The maps and boards that show its layers, with those of them that everyone with their link is not shown.
     *
     * @return list<array{kind: 'map'|'board', id: int, title: string, open: bool, address: string|null,
     *     layers: list<int>, closed: list<array{id: int, title: string}>}>
     */
    public static function of(Programme $programme): array
    {
        $layers = self::layers($programme);
        $closed = $hidden = [];
        foreach ($layers as $layer) {
            $records = VisibleRecords::of(Viewer::anyone(), $layer);
            if ($records->seesNothing()) {
                $closed[$layer->id] = $layer->title;
                if ($records->counted() === null) {
                    $hidden[$layer->id] = $layer->title;
                }
            }
        }
        $things = [];
        $shown = [
            ...$programme->maps()->orderBy('title')->get(),
            ...$programme->boards()->orderBy('title')->get(),
        ];
        foreach ($shown as $thing) {
            $open = $thing->audience === Audience::Link;
            // Boards may tell figures of what no map shows.
            $lacking = $thing instanceof Map ? $closed : $hidden;
            $things[] = [
                'kind' => $thing instanceof Map ? 'map' : 'board',
                'id' => $thing->id,
                'title' => $thing->title,
                'open' => $open,
                'address' => $open ? ($thing instanceof Map ? '/m/' : '/b/').$thing->link_token : null,
                'layers' => self::layersOf($thing),
                'closed' => $open
                    ? array_map(
                        static fn (int $id): array => ['id' => $id, 'title' => $lacking[$id]],
                        array_values(array_intersect(self::layersOf($thing), array_keys($lacking))),
                    )
                    : [],
            ];
        }

        return $things;
    }

    /** @return list<int> numbers of the layers that it shows */
    private static function layersOf(Map|Board $thing): array
    {
        $parts = $thing instanceof Map ? $thing->layers : $thing->tiles;

        return array_values(array_unique(array_filter(array_column($parts, 'layer'), is_int(...))));
    }
}

<?php

declare(strict_types=1);

namespace App\Plan;

use App\Models\Audience;
use App\Models\Board;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\User;
use App\Rights\ShownTo;
use Illuminate\Database\Eloquent\Collection;

/** Maps and boards of a programme, and whether they are shown to more people than their layers. */
final class ShownThings
{
    /** @return Collection<int, Layer> */
    public static function layers(Programme $programme): Collection
    {
        $layers = $programme->layers()->with(['slices', 'visitsLayer'])->orderBy('title')->get();

        return $layers->each(static function (Layer $l) use ($programme): void {
            $l->setRelation('programme', $programme);
            $l->visitsLayer?->setRelation('programme', $programme);
        });
    }

    /**
     * The maps and boards that show its layers, each with those that somebody whom it is shown to does not see.
     *
     * @param  Collection<int, Layer>|null  $layers  as {@see layers()} gives them, where they are there
     * @return list<array{kind: 'map'|'board', id: int, title: string, audience: string, shown_to: list<string>,
     *     address: string|null, layers: list<int>,
     *     closed: list<array{id: int, title: string, link: bool, people: list<string>}>}>
     */
    public static function of(Programme $programme, User $viewer, ?Collection $layers = null): array
    {
        $reach = new Reach($programme, ($layers ?? self::layers($programme))->keyBy('id'));
        $things = [];
        foreach ([...ShownTo::mapsOf($programme, $viewer), ...ShownTo::boardsOf($programme, $viewer)] as $thing) {
            $things[] = [
                'kind' => $thing instanceof Map ? 'map' : 'board',
                'id' => $thing->id,
                'title' => $thing->title,
                'audience' => $thing->audience->value,
                'shown_to' => $thing->shown_to ?? [],
                'address' => $thing->audience === Audience::Link
                    ? ($thing instanceof Map ? '/m/' : '/b/').$thing->link_token
                    : null,
                'layers' => self::layersOf($thing),
                'closed' => $reach->lacking($thing, $viewer),
            ];
        }

        return $things;
    }

    /** @return list<int> numbers of the layers that it shows */
    public static function layersOf(Map|Board $thing): array
    {
        $parts = $thing instanceof Map ? $thing->layers : $thing->tiles;

        return array_values(array_unique(array_filter(array_column($parts, 'layer'), is_int(...))));
    }
}

<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Problem;
use PinYard\Refused;

/** What ties layers whose formulas ask in which area a record lies to the layers of those areas. */
final class AreaDependency
{
    /**
     * A layer of areas keeps the title, geometry and fields that formulas of others read.
     *
     * @return list<Problem>
     */
    public static function problems(Layer $areas, LayerDesign $design): array
    {
        $problems = [];
        foreach ($areas->is_area ? self::readers($areas) : [] as $layer) {
            $all = Layer::areasOf($layer->programme)->map(
                static fn (Layer $l): LayerDesign => $l->id === $areas->id ? $design : $l->design(),
            );
            try {
                LayerDesign::fromArray(
                    $layer->design()->toArray(),
                    $layer
                        ->neighbours()
                        ->among(
                            array_values(
                                $all->filter(static fn (LayerDesign $d): bool => $d->geometry === GeometryKind::Area)
                                    ->all(),
                            ),
                        ),
                );
            } catch (Refused $e) {
                $problems[] = new Problem('area_used', '/title', $areas->title, [
                    'layer' => $layer->title,
                    'areas' => $areas->title,
                ]);
            }
        }

        return $problems;
    }

    /** @return list<Layer> whose formulas ask for these areas */
    public static function readers(Layer $areas): array
    {
        return array_values(
            Layer::query()
                ->where('programme_id', $areas->programme_id)
                ->with('programme')
                ->get()
                ->filter(
                    static fn (Layer $l): bool => $l->id !== $areas->id &&
                        in_array($areas->title, $l->design()->rules->areas(), true),
                )
                ->all(),
        );
    }
}

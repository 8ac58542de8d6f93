<?php

declare(strict_types=1);

namespace App\Storage;

use App\Formulas\Recalculate;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Design\GeometryKind;
use PinYard\Design\LayerDesign;
use PinYard\Problem;
use PinYard\Refused;

/** What ties layers whose formulas ask in which area a record lies to the layers of those areas. */
final class AreasLink
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
            $all = Layer::areasOf($layer->programme)->map(static fn (Layer $l): LayerDesign => $l->id === $areas->id ? $design : $l->design());
            try {
                LayerDesign::fromArray($layer->design()->toArray(), $layer->neighbours()->among($all->filter(static fn (LayerDesign $d): bool => $d->geometry === GeometryKind::Area)->values()->all()));
            } catch (Refused $e) {
                $problems[] = new Problem('area_used', '/title', $areas->title, ['layer' => $layer->title, 'areas' => $areas->title]);
            }
        }

        return $problems;
    }

    /** After areas were added, moved or changed: what lies in them is worked out anew, for all records of the layers that ask. */
    public static function changed(Layer $areas): void
    {
        if (! $areas->is_area) {
            return;
        }
        DB::afterCommit(static function () use ($areas): void {
            foreach (self::readers($areas) as $layer) {
                $rules = $layer->design()->rules;
                $keys = [];
                foreach ($rules->formulas as $key => $formula) {
                    if (in_array($areas->title, $formula->areas, true)) {
                        array_push($keys, (string) $key, ...$rules->readers((string) $key));
                    }
                }
                Recalculate::soon($layer, array_values(array_unique($keys)));
                // Boards look at this number to know whether they must count anew.
                Layer::query()->whereKey($layer->id)->increment('change_number');
            }
        });
    }

    /** @return list<Layer> */
    private static function readers(Layer $areas): array
    {
        return array_values(Layer::query()->where('programme_id', $areas->programme_id)->with('programme')->get()
            ->filter(static fn (Layer $l): bool => $l->id !== $areas->id && in_array($areas->title, $l->design()->rules->areas(), true))->all());
    }
}

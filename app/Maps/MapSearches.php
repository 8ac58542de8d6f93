<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Map;
use App\Models\Role;
use App\Models\Slice;
use App\Models\User;
use PinYard\Carto\SavedSearch;
use PinYard\Refused;

/** Reads the searches of a map as they are saved: each of a layer that the map shows and that one coordinates. */
final class MapSearches
{
    /**
     * @return list<array{id: string, title: string, part: string, slice: int}> as they are stored
     *
     * @throws Refused
     */
    public static function read(mixed $in, Map $map, User $person): array
    {
        $stand = array_column($map->searches ?? [], null, 'id');
        $parts = array_column($map->layers, 'layer', 'id');
        $read = [];
        foreach (SavedSearch::list($in) as $i => $search) {
            $stands = $stand[$search->id] ?? null;
            // What was there stays, also while its layer is out of the map: it may be put back.
            if ($stands === null || $stands['part'] !== $search->part || $stands['slice'] !== $search->slice) {
                self::check($search, $parts[$search->part] ?? null, $person, "searches/$i");
            }
            $read[] = $search->toArray();
        }

        return $read;
    }

    /** @throws Refused */
    private static function check(SavedSearch $search, ?int $number, User $person, string $at): void
    {
        $layer = $number === null ? null : Layer::query()->with('programme')->find($number);
        if ($layer === null) {
            throw Refused::because('search_of', $at, null, ['title' => $search->title]);
        }
        if (
            $layer->programme->deleted_at !== null ||
            $layer->programme->memberFor($person)?->role !== Role::Coordinator
        ) {
            throw Refused::because('map_layer_not_yours', $at, null, ['layer' => $layer->title]);
        }
        if (Slice::query()->where('layer_id', $layer->id)->whereKey($search->slice)->doesntExist()) {
            throw Refused::because('slice_unknown', "$at/slice", $search->slice, ['layer' => $layer->title]);
        }
    }
}

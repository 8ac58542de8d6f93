<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Map;
use App\Models\Role;
use App\Models\User;
use PinYard\Carto\MapTable;
use PinYard\Refused;

/** Reads the table beside a map as it is saved: of one of its layers, by who coordinates that layer. */
final class MapTables
{
    /**
     * @return array<string, mixed>|null as it is stored
     *
     * @throws Refused
     */
    public static function read(mixed $in, Map $map, User $person): ?array
    {
        if ($in === null || json_encode($in) === json_encode($map->beside)) {
            return $map->beside === null || $in === null ? null : $map->beside;
        }
        $part = is_array($in) ? $in['part'] ?? null : null;
        $document = is_string($part) ? array_column($map->layers, null, 'id')[$part] ?? null : null;
        $layer = $document === null ? null : Layer::query()->with('programme')->whereKey($document['layer'])->first();
        if (! is_string($part) || $layer === null) {
            throw Refused::because('table_part', 'beside/part', is_scalar($part) ? $part : null);
        }
        if (
            $layer->programme->deleted_at !== null ||
            $layer->programme->memberFor($person)?->role !== Role::Coordinator
        ) {
            throw Refused::because('map_layer_not_yours', 'beside/part', null, ['layer' => $layer->title]);
        }

        return MapTable::read($in, $part, $layer->design(), isset($document['look']['of']))->toArray();
    }
}

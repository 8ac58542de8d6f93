<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Slice;
use PinYard\Board\BoardContext;
use PinYard\Design\LayerDesign;

/** What the tiles of a programme's boards can read. */
final class BoardThings
{
    public static function of(Programme $programme): BoardContext
    {
        $layers = $programme->layers()->get()->keyBy('id');

        return new BoardContext(
            $layers->map(static fn (Layer $l): LayerDesign => $l->design())->all(),
            Slice::query()->whereIn('layer_id', $layers->keys())->pluck('layer_id', 'id')->all(),
            array_values($layers->pluck('visits_of')->filter(static fn (mixed $v): bool => is_int($v))->all()),
            array_values(array_map(
                intval(...),
                Map::query()->where('programme_id', $programme->id)->pluck('id')->all(),
            )),
        );
    }
}

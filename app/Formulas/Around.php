<?php

declare(strict_types=1);

namespace App\Formulas;

use App\Models\Layer;
use App\Storage\Records;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;

/** What a formula is worked out in, from a row of a layer's table. */
final class Around
{
    public static function row(Layer $layer, LayerDesign $design, object $row): Surroundings
    {
        return new Surroundings(
            Records::values($design, $row), now()->toDateTimeImmutable(), new \DateTimeZone($layer->programme->time_zone), $design->rules->labels,
            (float) $row->lon, (float) $row->lat,
        );
    }
}

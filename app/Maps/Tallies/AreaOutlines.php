<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use PinYard\Geo\Box;

/** The box around each area. */
final class AreaOutlines
{
    /**
     * @param  list<list<array{float, float}>>  $rings  of an area
     * @return Box|null null over the antimeridian, where a box tells nothing, and of an area without a border
     */
    public static function box(array $rings): ?Box
    {
        $lons = array_column($rings[0] ?? [], 0);
        $lats = array_column($rings[0] ?? [], 1);

        return $lons === [] || $lats === [] || max($lons) - min($lons) > 180
            ? null
            : Box::of(min($lons), min($lats), max($lons), max($lats));
    }
}

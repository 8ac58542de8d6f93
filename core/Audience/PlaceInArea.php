<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Geo\Longitude;
use PinYard\Geo\PointInArea;
use PinYard\Geo\Position;

/** A place in an area that means nothing: where a mark stands whose record is told to lie in that area alone. */
final class PlaceInArea
{
    /** Of an area that fills a hundredth of its box one in a million marks finds no place by these. */
    private const DRAWS = 1_400;

    /**
     * The same place each time for the same area and text.
     *
     * @param  list<list<array{float, float}>>  $rings  of an area, closed
     * @param  string  $of  what it is drawn by
     * @return Position|null null where the area has no room
     */
    public static function drawn(array $rings, string $of): ?Position
    {
        [$west, $east, $south, $north] = [INF, -INF, INF, -INF];
        $first = $rings[0][0][0] ?? 0.0;
        foreach ($rings as $ring) {
            $lon = $first + Longitude::eastward($first, $ring[0][0] ?? 0.0);
            foreach ($ring as $i => [$at, $lat]) {
                $lon += $i === 0 ? 0.0 : Longitude::eastward($ring[$i - 1][0], $at);
                [$west, $east] = [min($west, $lon), max($east, $lon)];
                [$south, $north] = [min($south, $lat), max($north, $lat)];
            }
        }
        for ($i = 0; $i < self::DRAWS && $west < $east; $i++) {
            $lot = Lot::of("$of $i");
            [$lon, $lat] = [Lot::between($west, $east, $lot[0]), Lot::between($south, $north, $lot[1])];
            if (PointInArea::of($rings, $lon, $lat)) {
                return Position::of(Longitude::eastward(0.0, $lon), $lat);
            }
        }

        return null;
    }
}

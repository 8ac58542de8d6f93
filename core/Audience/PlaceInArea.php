<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Geo\Longitude;
use PinYard\Geo\Position;
use PinYard\Geo\Unrolled;

/**
 * Places in an area that mean nothing: where marks stand whose records are told to lie in that area alone. Made once
 * for many: edges are straight in longitude and latitude, as {@see \PinYard\Geo\PointInArea} has them.
 */
final readonly class PlaceInArea
{
    /** Of an area that fills a hundredth of its box one in a million marks finds no place by these. */
    private const DRAWS = 1_400;

    /**
     * @param  list<array{float, float, float, float}>  $edges  of all rings; longitudes along them, from the first on
     * @param  array{float, float, float, float}  $box  west, south, east, north
     */
    private function __construct(private array $edges, private array $box)
    {
    }

    /** @param  list<list<array{float, float}>>  $rings  of an area, closed */
    public static function of(array $rings): self
    {
        $edges = Unrolled::edges($rings);
        [$lons, $lats] = [array_column($edges, 0), array_column($edges, 1)];

        return new self(
            // Along a latitude nothing is crossed.
            array_values(array_filter($edges, static fn (array $edge): bool => $edge[1] !== $edge[3])),
            $lons === [] || $lats === [] ? [0.0, 0.0, 0.0, 0.0] : [min($lons), min($lats), max($lons), max($lats)],
        );
    }

    /**
     * The same place each time for the same area and text.
     *
     * @param  string  $of  what it is drawn by
     * @return Position|null null where the area has no room
     */
    public function drawn(string $of): ?Position
    {
        [$west, $south, $east, $north] = $this->box;
        for ($i = 0; $i < self::DRAWS && $west < $east; $i++) {
            $lot = Lot::of("$of $i");
            [$lon, $lat] = [Lot::between($west, $east, $lot[0]), Lot::between($south, $north, $lot[1])];
            $inside = false;
            foreach ($this->edges as [$lon1, $lat1, $lon2, $lat2]) {
                if ($lat1 > $lat !== $lat2 > $lat
                    && $lon1 + ($lat - $lat1) / ($lat2 - $lat1) * ($lon2 - $lon1) > $lon) {
                    $inside = ! $inside;
                }
            }
            if ($inside) {
                return Position::of(Longitude::eastward(0.0, $lon), $lat);
            }
        }

        return null;
    }
}

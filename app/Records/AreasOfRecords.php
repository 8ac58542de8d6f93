<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\LayerRows;
use App\Models\Layer;
use PinYard\Audience\PlaceInArea;
use PinYard\Geo\AreaCells;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\PointInArea;
use PinYard\Geo\Wkb;
use stdClass;

/** In which area of a layer records lie, and what is told of their places where no more than that may be known. */
final class AreasOfRecords
{
    private const POLAR = 85.05;

    /**
     * @param  list<string>  $ids  of areas, 16 bytes each, the smallest first
     * @param  list<string>  $shapes  of each
     * @param  list<list<list<array{float, float}>>>  $rings  of each
     */
    private function __construct(
        private readonly array $ids,
        private readonly array $shapes,
        private readonly array $rings,
        private readonly AreaCells $cells,
    ) {
    }

    /** @var array<int, PlaceInArea> */
    private array $places = [];

    /** @param  int  $areas  number of a layer of the same programme; one that is not there has no areas */
    public static function of(Layer $layer, int $areas): self
    {
        $found = Layer::areasOf($layer->programme)->firstWhere('id', $areas);
        $ids = $shapes = $rings = [];
        foreach ($found === null ? [] : LayerRows::live($found)
            ->whereNotNull('area_m2')->orderBy('area_m2')->orderBy('id')->get(['id', 'shape']) as $row) {
            $ids[] = (string) $row->id;
            $shapes[] = (string) $row->shape;
            $rings[] = Wkb::allRings((string) $row->shape);
        }

        return new self($ids, $shapes, $rings, new AreaCells($rings));
    }

    /**
     * @param  list<stdClass>  $rows  with id, lon, lat and z
     * @param  string  $key  for what is drawn
     * @return list<array{told_lon: float|null, told_lat: float|null, told_z: int|null, told_shape: string|null}> in
     *     the same order; of what lies in none no place is told
     */
    public function places(array $rows, string $key): array
    {
        return array_map(
            fn (stdClass $row, ?int $area): array => ToldPlaces::place(
                $area === null ? null : $this->placeIn($area)->drawn($key.$row->id.$this->ids[$area]),
                null,
            ),
            $rows,
            $this->areasOf($rows),
        );
    }

    private function placeIn(int $area): PlaceInArea
    {
        return $this->places[$area] ??= PlaceInArea::of($this->rings[$area]);
    }

    /**
     * @param  list<stdClass>  $rows
     * @return array{stdClass|null, array{type: string, coordinates: list<mixed>}|null, int} the first of them that
     *     lies in an area, and that area; how many of them lie in one
     */
    public function first(array $rows): array
    {
        $inside = array_filter($this->areasOf($rows), static fn (?int $area): bool => $area !== null);
        $first = array_key_first($inside);

        return $first === null
            ? [null, null, 0]
            : [$rows[$first], Wkb::geoJson($this->shapes[$inside[$first]], GeometryKind::Area), count($inside)];
    }

    /**
     * @param  list<stdClass>  $rows  with lon, lat and z
     * @return list<bool> whether each lies in an area
     */
    public function lieIn(array $rows): array
    {
        return array_map(static fn (?int $area): bool => $area !== null, $this->areasOf($rows));
    }

    /**
     * @param  list<stdClass>  $rows
     * @return list<int|null> the area that each lies in
     */
    private function areasOf(array $rows): array
    {
        $order = array_keys($rows);
        usort($order, static fn (int $a, int $b): int => $rows[$a]->z <=> $rows[$b]->z);
        $this->cells->rewind();
        $areas = [];
        foreach ($order as $i) {
            [$lon, $lat] = [$rows[$i]->lon, $rows[$i]->lat];
            $areas[$i] = match (true) {
                $lon === null => null,
                // Quarters end with the Mercator square.
                abs($lat) >= self::POLAR => $this->inPolar((float) $lon, (float) $lat),
                default => $this->cells->at((int) $rows[$i]->z, (float) $lon, (float) $lat),
            };
        }
        ksort($areas);

        return array_values($areas);
    }

    private function inPolar(float $lon, float $lat): ?int
    {
        foreach ($this->rings as $area => $rings) {
            if (PointInArea::of($rings, $lon, $lat)) {
                return $area;
            }
        }

        return null;
    }
}

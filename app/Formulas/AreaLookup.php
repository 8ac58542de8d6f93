<?php

declare(strict_types=1);

namespace App\Formulas;

use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Models\Layer;
use App\Models\Programme;
use PinYard\Geo\PointInArea;
use PinYard\Geo\Wkb;

/**
 * Finds the area of a layer that a place lies in; of several, the smallest. A few places are asked for one by one, many
 * over a list that is read once.
 */
final class AreaLookup
{
    private const ONE_BY_ONE = 30;

    /** @var array<string, Layer|null> */
    private array $layers = [];

    /** @var array<string, int> */
    private array $asked = [];

    /**
     * @var array<string, list<array{list<list<array{float, float}>>, float, float, float, float,
     *     array<string, mixed>}>>
     */
    private array $read = [];

    private function __construct(private readonly Programme $programme)
    {
    }

    /** @return \Closure(string, float, float): array<string, mixed> */
    public static function in(Programme $programme): \Closure
    {
        $areas = new self($programme);

        return $areas->at(...);
    }

    /** @return array<string, mixed> values of the area, none where the place lies in none */
    private function at(string $title, float $lon, float $lat): array
    {
        $layer = $this->layers[$title] ??= Layer::areasOf($this->programme)->firstWhere('title', $title);
        if ($layer === null) {
            return [];
        }
        $this->asked[$title] = ($this->asked[$title] ?? 0) + 1;

        // The index keeps boxes; a box over the antimeridian goes round the other way, so the list answers there.
        return $this->asked[$title] > self::ONE_BY_ONE || abs($lon) > 90
            ? $this->amongAll($layer, $lon, $lat)
            : $this->byIndex($layer, $lon, $lat);
    }

    /** @return array<string, mixed> */
    private function byIndex(Layer $layer, float $lon, float $lat): array
    {
        $near = LayerRows::live($layer)
            ->whereRaw('mbrcontains(shape, point(?, ?))', [$lon, $lat])
            ->orderBy('area_m2')
            ->get();
        foreach ($near as $row) {
            $rings = Wkb::allRings($row->shape);
            if (PointInArea::of($rings, $lon, $lat)) {
                return StoredRow::values($layer->design(), $row);
            }
        }

        return [];
    }

    /** @return array<string, mixed> */
    private function amongAll(Layer $layer, float $lon, float $lat): array
    {
        foreach (
            $this->read[$layer->title] ??= $this->list($layer) as [$rings, $west, $south, $east, $north, $values]
        ) {
            if (
                $lon >= $west &&
                $lon <= $east &&
                $lat >= $south &&
                $lat <= $north &&
                PointInArea::of($rings, $lon, $lat)
            ) {
                return $values;
            }
        }

        return [];
    }

    /**
     * @return list<array{list<list<array{float, float}>>, float, float, float, float, array<string, mixed>}> the
     *     smallest first
     */
    private function list(Layer $layer): array
    {
        $list = [];
        foreach (LayerRows::live($layer)->whereNotNull('area_m2')->orderBy('area_m2')->get() as $row) {
            $rings = Wkb::allRings($row->shape);
            $lons = array_column($rings[0] ?? [], 0);
            $lats = array_column($rings[0] ?? [], 1);
            if ($lons !== [] && $lats !== []) {
                // Over the antimeridian a box tells nothing.
                $wide = max($lons) - min($lons) > 180;
                $list[] = [
                    $rings,
                    $wide ? -180.0 : min($lons),
                    min($lats),
                    $wide ? 180.0 : max($lons),
                    max($lats),
                    StoredRow::values($layer->design(), $row),
                ];
            }
        }

        return $list;
    }
}

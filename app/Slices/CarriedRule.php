<?php

declare(strict_types=1);

namespace App\Slices;

use App\Layers\PlaceSql;
use App\Models\Programme;

/**
 * A rule taken along to a copy of its programme: crews by their copies. Records do not come along, so an area of
 * another layer becomes the area drawn as it is now.
 */
final readonly class CarriedRule
{
    /** @param  array<int, int>  $crews  numbers of crews to those of their copies */
    public function __construct(private Programme $from, private array $crews)
    {
    }

    /**
     * @param  array<mixed>  $part  of a filter as it is stored
     * @return array<mixed>
     */
    public function of(array $part): array
    {
        foreach (['all', 'any', 'none'] as $joined) {
            if (is_array($part[$joined] ?? null)) {
                return [
                    $joined => array_map(
                        fn (mixed $inner): mixed => is_array($inner) ? $this->of($inner) : $inner,
                        $part[$joined],
                    ),
                ];
            }
        }
        $value = $part['value'] ?? null;
        if (($part['field'] ?? null) === '@crew' && is_array($value)) {
            return [
                ...$part,
                'value' => array_map(fn (mixed $id): mixed => is_int($id) ? $this->crews[$id] ?? $id : $id, $value),
            ];
        }
        if (($part['test'] ?? null) === 'in_area' && is_array($value)) {
            $shape = PlaceSql::areaOf($this->from, (int) ($value['layer'] ?? 0), (string) ($value['record'] ?? ''));

            return $shape === null ? $part : [...$part, 'test' => 'in_shape', 'value' => $shape->toGeoJson()];
        }

        return $part;
    }
}

<?php

declare(strict_types=1);

namespace App\Programmes;

/** The tiles of a board as those of its copy have them: with the numbers of the copied layers, slices and maps. */
final class BoardCopy
{
    /**
     * @param  array<mixed>  $tiles  or a part of one
     * @param  array<int, int>  $layers  numbers to those of their copies; empty for a copy within the programme
     * @param  array<int, int>  $slices
     * @param  array<int, int>  $maps
     * @return array<mixed>
     */
    public static function tiles(array $tiles, array $layers, array $slices, array $maps): array
    {
        if ($layers === []) {
            return $tiles;
        }
        $copy = [];
        foreach ($tiles as $key => $part) {
            $copy[$key] = match (true) {
                is_array($part) => self::tiles($part, $layers, $slices, $maps),
                ! is_int($part) => $part,
                $key === 'layer', $key === 'areas' => $layers[$part] ?? $part,
                $key === 'slice' => $slices[$part] ?? null,
                $key === 'map' => $maps[$part] ?? $part,
                default => $part,
            };
        }

        return $copy;
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Carto;

/**
 * A look as layers of the open MapLibre style specification (version 8).
 * Features carry the property `class` (the code of the look's field); the source is given by name.
 */
final class StyleLayers
{
    /** Below this zoom pegs would cover each other, so dots stand in for them. */
    private const PEGS_FROM_ZOOM = 10;

    /** @return list<array<string, mixed>> */
    public static function of(Look $look, string $source): array
    {
        return [
            [
                'id' => "$source-dots",
                'type' => 'circle',
                'source' => $source,
                'maxzoom' => self::PEGS_FROM_ZOOM,
                'paint' => [
                    'circle-radius' => ['interpolate', ['linear'], ['zoom'], 2, 2, self::PEGS_FROM_ZOOM, 4.5],
                    'circle-color' => self::byClass($look, static fn (Peg $p): string => $p->colour),
                    'circle-stroke-color' => '#FFFFFF',
                    'circle-stroke-width' => 1,
                ],
            ],
            [
                'id' => "$source-pegs",
                'type' => 'symbol',
                'source' => $source,
                'minzoom' => self::PEGS_FROM_ZOOM,
                'layout' => [
                    'icon-image' => self::byClass($look, static fn (Peg $p): string => $p->image()),
                    'icon-anchor' => 'bottom',
                    'icon-allow-overlap' => true,
                    'icon-ignore-placement' => true,
                    'icon-size' => ['interpolate', ['linear'], ['zoom'], self::PEGS_FROM_ZOOM, 0.55, 14, 1],
                    'symbol-z-order' => 'viewport-y',
                ],
            ],
        ];
    }

    /** @param  callable(Peg): string  $draw */
    private static function byClass(Look $look, callable $draw): mixed
    {
        if ($look->classes === []) {
            return $draw($look->other);
        }
        $match = ['match', ['get', 'class']];
        foreach ($look->classes as $code => $peg) {
            array_push($match, (string) $code, $draw($peg));
        }
        $match[] = $draw($look->other);

        return $match;
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Carto\Style;

use PinYard\Carto\Look;
use PinYard\Carto\Marks\OneMark;
use PinYard\Carto\Peg;
use PinYard\Geo\GeometryKind;

/** Points as layers of a style: dots from afar and pegs from near, circles by size, photos. */
final class PointLayers
{
    /** Below this zoom pegs would cover each other, so dots stand in for them. */
    public const PEGS_FROM_ZOOM = 10;

    /** From here on there is room for photos. */
    private const PHOTOS_FROM_ZOOM = 13;

    /** @return list<array<string, mixed>> the lowest first */
    public static function of(Look $look, string $source): array
    {
        // Records of lines and areas that are not drawn yet are points.
        $only = [
            $look->geometry === GeometryKind::Point ? null : ['==', ['geometry-type'], 'Point'],
            $look->gather === null ? null : ['!', ['has', 'point_count']],
        ];

        return [
            ...$look->size !== null && $look->geometry === GeometryKind::Point
                ? self::circles($look, $source, $only)
                : self::pegs($look, $source, $only),
            ...$look->photos ? [self::photos($look, $source, $only)] : [],
            ...$look->gather === null ? [] : ClusterLayers::of($look->gather, $look, $source),
        ];
    }

    /**
     * @param  list<list<mixed>|null>  $only
     * @return list<array<string, mixed>>
     */
    private static function pegs(Look $look, string $source, array $only): array
    {
        return [
            [
                'id' => "$source-dots",
                'type' => 'circle',
                'source' => $source,
                'maxzoom' => self::PEGS_FROM_ZOOM,
                ...ByClass::filter(...$only),
                'paint' => [
                    'circle-radius' => ['interpolate', ['linear'], ['zoom'], 2, 2, self::PEGS_FROM_ZOOM, 4.5],
                    'circle-color' => ByClass::value($look, static fn (Peg $p): string => $p->colour),
                    'circle-stroke-color' => '#FFFFFF',
                    'circle-stroke-width' => 1,
                ],
            ],
            [
                'id' => "$source-pegs",
                'type' => 'symbol',
                'source' => $source,
                'minzoom' => self::PEGS_FROM_ZOOM,
                ...ByClass::filter(...$only),
                'layout' => [
                    'icon-image' => ByClass::value($look, static fn (Peg $p): string => $p->image()),
                    'icon-anchor' => 'bottom',
                    'icon-allow-overlap' => true,
                    'icon-ignore-placement' => true,
                    'icon-size' => ['interpolate', ['linear'], ['zoom'], self::PEGS_FROM_ZOOM, 0.55, 14, 1],
                    'symbol-z-order' => 'viewport-y',
                ],
            ],
        ];
    }

    /**
     * A record's photo in a ring of its class's colour, over its peg, which stays where there is no photo.
     *
     * @param  list<list<mixed>|null>  $only
     * @return array<string, mixed>
     */
    private static function photos(Look $look, string $source, array $only): array
    {
        return [
            'id' => "$source-photos",
            'type' => 'symbol',
            'source' => $source,
            'minzoom' => self::PHOTOS_FROM_ZOOM,
            ...ByClass::filter(['has', 'photo'], ...$only),
            'layout' => [
                'icon-image' => [
                    'concat',
                    'photo-',
                    ByClass::value($look, static fn (Peg $p): string => ltrim($p->colour, '#')),
                    '-',
                    ['get', 'photo'],
                ],
                'icon-anchor' => 'bottom',
                'icon-allow-overlap' => true,
                'icon-ignore-placement' => true,
                'icon-size' => ['interpolate', ['linear'], ['zoom'], self::PHOTOS_FROM_ZOOM, 0.7, 16, 1],
                'symbol-z-order' => 'viewport-y',
            ],
        ];
    }

    /**
     * Circles by size, the small ones on top; far away all are smaller. What has no size is a small ring, what has no
     * class an empty one.
     *
     * @param  list<list<mixed>|null>  $only
     * @return list<array<string, mixed>>
     */
    private static function circles(Look $look, string $source, array $only): array
    {
        $full = ($look->size->pixels ?? 0) / 2;
        $radius = static fn (float $share, float $least): array => [
            'max',
            $least,
            ['*', $full * $share, ['get', 'size']],
        ];
        $radius = ['interpolate', ['linear'], ['zoom'], 6, $radius(0.4, 1.5), 12, $radius(1, 2.5)];
        $sorted = ['circle-sort-key' => ['-', 0, ['get', 'size']]];
        $colour = ByClass::value($look, static fn (Peg $p): string => $p->colour);
        $single = $look->marks instanceof OneMark;

        return [
            [
                'id' => "$source-unsized",
                'type' => 'circle',
                'source' => $source,
                ...ByClass::filter(['!', ['has', 'size']], ...$only),
                'paint' => [
                    'circle-radius' => 4,
                    'circle-color' => '#FFFCF5',
                    'circle-opacity' => 0.6,
                    'circle-stroke-color' => $colour,
                    'circle-stroke-width' => 2,
                ],
            ],
            ...$single ? [] : [
                [
                    'id' => "$source-unclassed",
                    'type' => 'circle',
                    'source' => $source,
                    ...ByClass::filter(['has', 'size'], ['!', ['has', 'class']], ...$only),
                    'layout' => $sorted,
                    'paint' => [
                        'circle-radius' => $radius,
                        'circle-color' => '#FFFCF5',
                        'circle-opacity' => 0.3,
                        'circle-stroke-color' => $look->marks->other->colour,
                        'circle-stroke-width' => 2,
                    ],
                ],
            ],
            [
                'id' => "$source-circles",
                'type' => 'circle',
                'source' => $source,
                ...ByClass::filter(['has', 'size'], $single ? null : ['has', 'class'], ...$only),
                'layout' => $sorted,
                'paint' => [
                    'circle-radius' => $radius,
                    'circle-color' => $colour,
                    'circle-opacity' => 0.85,
                    'circle-stroke-color' => '#1D2B2E',
                    'circle-stroke-width' => 1.2,
                ],
            ],
        ];
    }
}

<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Geo\GeometryKind;

/**
 * A look as layers of the open MapLibre style specification (version 8). Features carry the property `class` (the code
 * of the look's field); the source is given by name.
 */
final class StyleLayers
{
    /** Below this zoom pegs would cover each other, so dots stand in for them. */
    private const PEGS_FROM_ZOOM = 10;

    /** Drawn from the page's own fonts: styles name no glyphs. */
    private const FONT = 'Atkinson Hyperlegible Next Variable';

    /** @return list<array<string, mixed>> the lowest first */
    public static function of(
        Look $look,
        string $source,
        float $opacity = 1,
        ?ZoomRange $zoom = null,
        ?Label $label = null,
    ): array {
        $zoom ??= ZoomRange::all();
        // Records of lines and areas that are not drawn yet are points, so those come with every kind.
        $layers = [
            ...match ($look->geometry) {
                GeometryKind::Point => [],
                GeometryKind::Line => self::lines($look, $source),
                GeometryKind::Area => self::areas($look, $source),
            },
            ...self::points($look, $source),
            ...$label === null ? [] : self::labels($look, $source, $label),
        ];
        $drawn = [];
        foreach ($layers as $layer) {
            $narrowed = $zoom->narrow($layer);
            if ($narrowed !== null) {
                $drawn[] = $opacity < 1 ? self::seeThrough($narrowed, $opacity) : $narrowed;
            }
        }

        return $drawn;
    }

    /**
     * @param  array<string, mixed>  $layer
     * @return array<string, mixed>
     */
    private static function seeThrough(array $layer, float $opacity): array
    {
        $names = match ($layer['type']) {
            'circle' => ['circle-opacity', 'circle-stroke-opacity'],
            'symbol' => ['icon-opacity', 'text-opacity'],
            'line' => ['line-opacity'],
            default => ['fill-opacity'],
        };
        $paint = is_array($layer['paint'] ?? null) ? $layer['paint'] : [];
        foreach ($names as $name) {
            $own = $paint[$name] ?? 1;
            $paint[$name] = round((is_int($own) || is_float($own) ? $own : 1) * $opacity, 3);
        }

        return ['paint' => $paint] + $layer;
    }

    /**
     * Labels give way to each other; along a line they follow it, in an area they stand in its middle.
     *
     * @return list<array<string, mixed>>
     */
    private static function labels(Look $look, string $source, Label $label): array
    {
        $text = [
            'text-field' => ['coalesce', ['get', 'label'], ''],
            'text-font' => [self::FONT],
            'text-size' => $label->size,
            'text-max-width' => 12,
        ];
        $paint = ['text-color' => '#1D2B2E', 'text-halo-color' => '#FFFCF5', 'text-halo-width' => 1.6];
        $beside = [
            'text-variable-anchor' => ['top', 'left', 'right', 'bottom'],
            'text-radial-offset' => 0.5,
            'text-justify' => 'auto',
        ];
        $one = static fn (string $id, string $type, array $layout): ?array => $label->zoom->narrow([
            'id' => "$source-$id",
            'type' => 'symbol',
            'source' => $source,
            'filter' => ['==', ['geometry-type'], $type],
            'layout' => $text + $layout,
            'paint' => $paint,
        ]);

        return array_values(array_filter([
            $look->geometry === GeometryKind::Line
                ? $one('line-labels', 'LineString', [
                    'symbol-placement' => 'line',
                    // Above the line and not on it, for the head of its class sits there.
                    'text-offset' => [0, -0.9],
                ])
                : null,
            $look->geometry === GeometryKind::Area
                ? $one('area-labels', 'Polygon', ['symbol-placement' => 'point', 'text-offset' => [0, 1.1]])
                : null,
            $one('labels', 'Point', $beside),
        ]));
    }

    /** @return list<array<string, mixed>> */
    private static function points(Look $look, string $source): array
    {
        $only = $look->geometry === GeometryKind::Point ? [] : ['filter' => ['==', ['geometry-type'], 'Point']];
        if ($look->size !== null && $look->geometry === GeometryKind::Point) {
            return self::circles($look, $source);
        }

        return [
            [
                'id' => "$source-dots",
                'type' => 'circle',
                'source' => $source,
                'maxzoom' => self::PEGS_FROM_ZOOM,
                ...$only,
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
                ...$only,
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

    /**
     * Circles by size, the small ones on top; far away all are smaller. What has no size is a small ring, what has no
     * class an empty one.
     *
     * @return list<array<string, mixed>>
     */
    private static function circles(Look $look, string $source): array
    {
        $full = ($look->size->pixels ?? 0) / 2;
        $radius = static fn (float $share, float $least): array => [
            'max',
            $least,
            ['*', $full * $share, ['get', 'size']],
        ];
        $radius = ['interpolate', ['linear'], ['zoom'], 6, $radius(0.4, 1.5), 12, $radius(1, 2.5)];
        $sorted = ['circle-sort-key' => ['-', 0, ['get', 'size']]];
        $colour = self::byClass($look, static fn (Peg $p): string => $p->colour);

        return [
            [
                'id' => "$source-unsized",
                'type' => 'circle',
                'source' => $source,
                'filter' => ['!', ['has', 'size']],
                'paint' => [
                    'circle-radius' => 4,
                    'circle-color' => '#FFFCF5',
                    'circle-opacity' => 0.6,
                    'circle-stroke-color' => $colour,
                    'circle-stroke-width' => 2,
                ],
            ],
            ...$look->field === null ? [] : [
                [
                    'id' => "$source-unclassed",
                    'type' => 'circle',
                    'source' => $source,
                    'filter' => ['all', ['has', 'size'], ['!', ['has', 'class']]],
                    'layout' => $sorted,
                    'paint' => [
                        'circle-radius' => $radius,
                        'circle-color' => '#FFFCF5',
                        'circle-opacity' => 0.3,
                        'circle-stroke-color' => $look->other->colour,
                        'circle-stroke-width' => 2,
                    ],
                ],
            ],
            [
                'id' => "$source-circles",
                'type' => 'circle',
                'source' => $source,
                'filter' => $look->field === null ? ['has', 'size'] : ['all', ['has', 'size'], ['has', 'class']],
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

    /** @return list<array<string, mixed>> */
    private static function lines(Look $look, string $source): array
    {
        $only = ['filter' => ['==', ['geometry-type'], 'LineString']];
        $by = ['max', 1, ['*', $look->size->pixels ?? 0, ['coalesce', ['get', 'size'], 0]]];
        $width = static fn (float $more): array => $look->size === null
            ? ['interpolate', ['linear'], ['zoom'], 8, 1.5 + $more, 14, 4 + $more]
            : ['interpolate', ['linear'], ['zoom'], 8, ['+', $more, ['*', 0.4, $by]], 14, ['+', $more, $by]];
        $round = ['line-join' => 'round', 'line-cap' => 'round'];

        return [
            [
                'id' => "$source-line-edge",
                'type' => 'line',
                'source' => $source,
                ...$only,
                'layout' => $round,
                'paint' => ['line-color' => '#FFFFFF', 'line-width' => $width(2.5)],
            ],
            [
                'id' => "$source-line",
                'type' => 'line',
                'source' => $source,
                ...$only,
                'layout' => $round,
                'paint' => [
                    'line-color' => self::byClass($look, static fn (Peg $p): string => $p->colour),
                    'line-width' => $width(0),
                ],
            ],
            ...self::heads($look, "$source-line-heads", $source, 'LineString', 'line-center'),
        ];
    }

    /** @return list<array<string, mixed>> */
    private static function areas(Look $look, string $source): array
    {
        if ($look->numbers !== null) {
            return self::classedAreas($look, $source);
        }
        $only = ['filter' => ['==', ['geometry-type'], 'Polygon']];
        $colour = self::byClass($look, static fn (Peg $p): string => $p->colour);

        return [
            [
                'id' => "$source-area",
                'type' => 'fill',
                'source' => $source,
                ...$only,
                'paint' => ['fill-color' => $colour, 'fill-opacity' => 0.28],
            ],
            [
                'id' => "$source-outline",
                'type' => 'line',
                'source' => $source,
                ...$only,
                'layout' => ['line-join' => 'round'],
                'paint' => [
                    'line-color' => $colour,
                    'line-width' => ['interpolate', ['linear'], ['zoom'], 8, 1, 14, 2.5],
                ],
            ],
            ...self::heads($look, "$source-area-heads", $source, 'Polygon', 'point'),
        ];
    }

    /**
     * Areas by classes of numbers: filled so that neighbours can be told apart, within a dark line that stands out from
     * any ground. What has no number is barely filled, what has too few records is hatched.
     *
     * @return list<array<string, mixed>>
     */
    private static function classedAreas(Look $look, string $source): array
    {
        $fill = static fn (string $id, array $which, array $paint): array => [
            'id' => "$source-$id",
            'type' => 'fill',
            'source' => $source,
            'filter' => ['all', ['==', ['geometry-type'], 'Polygon'], $which],
            'paint' => $paint,
        ];
        $few = ['==', ['coalesce', ['get', 'class'], ''], Tally::FEW];

        return [
            $fill('area', ['all', ['has', 'class'], ['!', $few]], [
                'fill-color' => self::byClass($look, static fn (Peg $p): string => $p->colour),
                'fill-opacity' => 0.78,
            ]),
            $fill('area-none', ['!', ['has', 'class']], [
                'fill-color' => $look->other->colour,
                'fill-opacity' => 0.14,
            ]),
            ...$look->tally === null ? [] : [
                $fill('area-few', $few, ['fill-pattern' => 'hatch-'.ltrim($look->other->colour, '#')]),
            ],
            [
                'id' => "$source-outline",
                'type' => 'line',
                'source' => $source,
                'filter' => ['==', ['geometry-type'], 'Polygon'],
                'layout' => ['line-join' => 'round'],
                'paint' => [
                    'line-color' => '#1D2B2E',
                    'line-width' => ['interpolate', ['linear'], ['zoom'], 8, 0.5, 14, 1.4],
                ],
            ],
        ];
    }

    /**
     * The head of a class's peg in the middle of its line or area, so that classes are not told by colour alone; where
     * there is but one, there is nothing to tell.
     *
     * @return list<array<string, mixed>>
     */
    private static function heads(Look $look, string $id, string $source, string $type, string $placement): array
    {
        return $look->classes === [] ? [] : [
            [
                'id' => $id,
                'type' => 'symbol',
                'source' => $source,
                'minzoom' => self::PEGS_FROM_ZOOM,
                'filter' => ['==', ['geometry-type'], $type],
                'layout' => [
                    'symbol-placement' => $placement,
                    'icon-image' => self::byClass($look, static fn (Peg $p): string => $p->headImage()),
                    'icon-rotation-alignment' => 'viewport',
                    'icon-allow-overlap' => true,
                    'icon-size' => ['interpolate', ['linear'], ['zoom'], self::PEGS_FROM_ZOOM, 0.6, 14, 1],
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

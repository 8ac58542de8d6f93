<?php

declare(strict_types=1);

namespace PinYard\Carto\Style;

use PinYard\Carto\Look;
use PinYard\Carto\Peg;
use PinYard\Carto\Tally;

/** Lines and areas as layers of a style. */
final class ShapeLayers
{
    private const INK = '#1D2B2E';

    /** Lengths of strokes and gaps, in widths of the line; dots are strokes of no length with round ends. */
    private const DASHES = [
        'solid' => ['line-cap' => 'round'],
        'dashed' => ['line-cap' => 'butt', 'array' => [2.5, 1.8]],
        'dotted' => ['line-cap' => 'round', 'array' => [0.01, 1.9]],
    ];

    /** How much of the ground a filled area covers. */
    private const FULL = 0.78;

    private const TINT = 0.28;

    /** @return list<array<string, mixed>> the lowest first */
    public static function lines(Look $look, string $source): array
    {
        $only = ['==', ['geometry-type'], 'LineString'];
        $by = ['max', 1, ['*', $look->size->pixels ?? 0, ['coalesce', ['get', 'size'], 0]]];
        $near = max(1, $look->width ?? 4);
        $width = static fn (float $more): array => $look->size === null
            ? ['interpolate', ['linear'], ['zoom'], 8, max(1, $near * 0.375) + $more, 14, $near + $more]
            : ['interpolate', ['linear'], ['zoom'], 8, ['+', $more, ['*', 0.4, $by]], 14, ['+', $more, $by]];

        return [
            ...self::cells($look, $source),
            [
                'id' => "$source-line-edge",
                'type' => 'line',
                'source' => $source,
                ...ByClass::filter($only),
                'layout' => ['line-join' => 'round', 'line-cap' => 'round'],
                'paint' => ['line-color' => '#FFFFFF', 'line-width' => $width(2.5)],
            ],
            ...self::strokes($look, "$source-line", $source, $only, [
                'line-color' => ByClass::value($look, static fn (Peg $p): string => $p->colour),
                'line-width' => $width(0),
            ]),
            ...self::heads($look, "$source-line-heads", $source, 'LineString', 'line-center'),
        ];
    }

    /**
     * The cells that are told of a line where its place is blurred.
     *
     * @return list<array<string, mixed>>
     */
    private static function cells(Look $look, string $source): array
    {
        $colour = ByClass::value($look, static fn (Peg $p): string => $p->colour);

        return [
            self::fill($source, 'line-cells', ['fill-color' => $colour, 'fill-opacity' => self::TINT]),
            [
                'id' => "$source-line-cells-edge",
                'type' => 'line',
                'source' => $source,
                ...ByClass::filter(['==', ['geometry-type'], 'Polygon']),
                'layout' => ['line-join' => 'round'],
                'paint' => ['line-color' => $colour, 'line-width' => 1.5],
            ],
        ];
    }

    /**
     * Areas are tinted, or filled so that classes of numbers can be told apart, within a dark line that stands out from
     * any ground. What has no number is barely filled, what has too few records is hatched.
     *
     * @return list<array<string, mixed>> the lowest first
     */
    public static function areas(Look $look, string $source): array
    {
        $only = ['==', ['geometry-type'], 'Polygon'];
        $classed = $look->marks->fills();
        $colour = ByClass::value($look, static fn (Peg $p): string => $p->colour);
        $few = ['==', ['coalesce', ['get', 'class'], ''], Tally::FEW];
        $tallied = $look->tally() !== null;
        $patterns = [];
        foreach (ByClass::parted($look, static fn (Peg $p): ?string => $p->pattern()) as $picture => $which) {
            $patterns[] = self::fill($source, 'area-'.count($patterns), ['fill-pattern' => $picture], $which);
        }
        $strokes = self::strokes($look, "$source-outline", $source, $only, [
            'line-color' => $classed ? self::INK : $colour,
            'line-width' => self::outline($look->width, $classed),
        ], 'round');

        return [
            self::fill($source, 'area', [
                'fill-color' => $colour,
                'fill-opacity' => ByClass::value($look, static fn (Peg $p): float => match ($p->fill) {
                    'tint' => $classed ? self::FULL : self::TINT,
                    'full' => self::FULL,
                    // A pattern lies on a breath of its colour, so that the area is seen as one.
                    'none' => 0.0,
                    default => 0.12,
                }),
            ], $classed ? ['has', 'class'] : null, $tallied ? ['!', $few] : null),
            ...$classed ? [
                self::fill($source, 'area-none', [
                    'fill-color' => $look->marks->other->colour,
                    'fill-opacity' => 0.14,
                ], ['!', ['has', 'class']]),
            ] : [],
            ...$patterns,
            ...$tallied ? [
                self::fill(
                    $source,
                    'area-few',
                    ['fill-pattern' => 'hatch-'.ltrim($look->marks->other->colour, '#')],
                    $few,
                ),
            ] : [],
            ...$look->width === 0 ? [] : $strokes,
            ...$classed ? [] : self::heads($look, "$source-area-heads", $source, 'Polygon', 'point'),
        ];
    }

    /**
     * @param  array<string, mixed>  $paint
     * @param  list<mixed>|null  ...$which
     * @return array<string, mixed>
     */
    private static function fill(string $source, string $id, array $paint, ?array ...$which): array
    {
        return [
            'id' => "$source-$id",
            'type' => 'fill',
            'source' => $source,
            ...ByClass::filter(['==', ['geometry-type'], 'Polygon'], ...$which),
            'paint' => $paint,
        ];
    }

    /** @return list<mixed> pixels by zoom */
    private static function outline(?int $width, bool $classed): array
    {
        [$far, $near] = match (true) {
            $width !== null => [max(0.5, $width * 0.4), $width],
            $classed => [0.5, 1.4],
            default => [1, 2.5],
        };

        return ['interpolate', ['linear'], ['zoom'], 8, $far, 14, $near];
    }

    /**
     * A layer for each way in which lines are dashed: the specification knows no dashes by feature that all maps draw.
     *
     * @param  list<mixed>  $only
     * @param  array<string, mixed>  $paint
     * @return list<array<string, mixed>>
     */
    private static function strokes(
        Look $look,
        string $id,
        string $source,
        array $only,
        array $paint,
        string $join = 'round',
    ): array {
        $layers = [];
        foreach (ByClass::parted($look, static fn (Peg $p): string => $p->dash) as $dash => $which) {
            $how = self::DASHES[$dash];
            $layers[] = [
                'id' => $layers === [] ? $id : "$id-$dash",
                'type' => 'line',
                'source' => $source,
                ...ByClass::filter($only, $which),
                'layout' => ['line-join' => $join, 'line-cap' => $how['line-cap']],
                'paint' => $paint + (isset($how['array']) ? ['line-dasharray' => $how['array']] : []),
            ];
        }

        return $layers;
    }

    /**
     * The head of a class's peg in the middle of its line or area, so that classes are not told by colour alone; where
     * there is but one, there is nothing to tell.
     *
     * @return list<array<string, mixed>>
     */
    private static function heads(Look $look, string $id, string $source, string $type, string $placement): array
    {
        return $look->marks->classes === [] ? [] : [
            [
                'id' => $id,
                'type' => 'symbol',
                'source' => $source,
                'minzoom' => PointLayers::PEGS_FROM_ZOOM,
                ...ByClass::filter(['==', ['geometry-type'], $type]),
                'layout' => [
                    'symbol-placement' => $placement,
                    'icon-image' => ByClass::value($look, static fn (Peg $p): string => $p->headImage()),
                    'icon-rotation-alignment' => 'viewport',
                    'icon-allow-overlap' => true,
                    'icon-size' => ['interpolate', ['linear'], ['zoom'], PointLayers::PEGS_FROM_ZOOM, 0.6, 14, 1],
                ],
            ],
        ];
    }
}

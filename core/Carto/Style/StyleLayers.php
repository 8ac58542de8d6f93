<?php

declare(strict_types=1);

namespace PinYard\Carto\Style;

use PinYard\Carto\Label;
use PinYard\Carto\Look;
use PinYard\Carto\ZoomRange;
use PinYard\Geo\GeometryKind;

/**
 * A look as layers of the open MapLibre style specification (version 8). Features carry the property `class` (the code
 * of the class they are in), and `size`, `label`, `photo` where there is such; the source is given by name.
 */
final class StyleLayers
{
    /** Drawn from the page's own fonts: styles name no glyphs. */
    public const FONT = 'Atkinson Hyperlegible Next Variable';

    /** @return list<array<string, mixed>> the lowest first */
    public static function of(
        Look $look,
        string $source,
        float $opacity = 1,
        ?ZoomRange $zoom = null,
        ?Label $label = null,
    ): array {
        $zoom ??= ZoomRange::all();
        $drawnAs = $look->drawnAs();
        $cells = $drawnAs !== $look->geometry;
        // Records of lines and areas that are not drawn yet are points, so those come with every kind.
        $layers = [
            ...match ($drawnAs) {
                GeometryKind::Point => [],
                GeometryKind::Line => ShapeLayers::lines($look, $source),
                GeometryKind::Area => ShapeLayers::areas($look, $source),
            },
            ...$cells ? [] : PointLayers::of($look, $source),
            ...$label === null || $cells ? [] : self::labels($look, $source, $label),
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
            $paint[$name] = is_int($own) || is_float($own) ? round($own * $opacity, 3) : ['*', $opacity, $own];
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
            // Of a line whose place is blurred its cells are told.
            $look->geometry !== GeometryKind::Point
                ? $one('area-labels', 'Polygon', ['symbol-placement' => 'point', 'text-offset' => [0, 1.1]])
                : null,
            $one('labels', 'Point', $beside),
        ]));
    }
}

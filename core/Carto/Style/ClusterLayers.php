<?php

declare(strict_types=1);

namespace PinYard\Carto\Style;

use PinYard\Carto\Gathering;
use PinYard\Carto\Look;
use PinYard\Carto\Marks\OneMark;

/** Gathered points: a disc with the number in it, the larger the more they are; a share as a ring, so far filled. */
final class ClusterLayers
{
    private const INK = '#1D2B2E';

    private const PAPER = '#FFFCF5';

    /** @return list<array<string, mixed>> */
    public static function of(Gathering $gather, Look $look, string $source): array
    {
        $only = ['filter' => ['has', 'point_count']];
        $text = [
            'text-field' => $gather->text(),
            'text-font' => [StyleLayers::FONT],
            'text-size' => 13,
            'text-allow-overlap' => true,
            'text-ignore-placement' => true,
        ];
        if ($gather->tell === 'share') {
            $colour = ltrim(($look->marks->classes[$gather->code] ?? $look->marks->other)->colour, '#');

            return [
                [
                    'id' => "$source-gathered",
                    'type' => 'symbol',
                    'source' => $source,
                    ...$only,
                    'layout' => $text + [
                        // In steps of five, or there would be a picture for each percent.
                        'icon-image' => [
                            'concat',
                            "share-$colour-",
                            ['to-string', ['*', 5, ['round', ['/', $gather->percent(), 5]]]],
                        ],
                        'icon-size' => self::byNumber(0.85, 1.05, 1.25),
                        'icon-allow-overlap' => true,
                        'icon-ignore-placement' => true,
                    ],
                    'paint' => ['text-color' => self::INK],
                ],
            ];
        }

        return [
            [
                'id' => "$source-gathered-disc",
                'type' => 'circle',
                'source' => $source,
                ...$only,
                'paint' => [
                    'circle-radius' => self::byNumber(14, 18, 23),
                    'circle-color' => self::PAPER,
                    'circle-opacity' => 0.94,
                    'circle-stroke-color' => $look->marks instanceof OneMark ? $look->marks->other->colour : self::INK,
                    'circle-stroke-width' => 3,
                ],
            ],
            [
                'id' => "$source-gathered",
                'type' => 'symbol',
                'source' => $source,
                ...$only,
                'layout' => $text,
                'paint' => ['text-color' => self::INK],
            ],
        ];
    }

    /** @return list<mixed> */
    private static function byNumber(float $few, float $some, float $many): array
    {
        return ['step', ['get', 'point_count'], $few, 20, $some, 200, $many];
    }
}

<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Texts;
use PinYard\Carto\Marks\Density;
use PinYard\Carto\Marks\Marks;

/** By what the marks of a layer differ, in words. */
final class MarksText
{
    /** @return string|null null where all are alike */
    public static function of(Marks $marks, Layer $layer, string $title): ?string
    {
        $labels = array_map(
            static fn (string $key): string => $layer->design()->field($key)->label ?? $key,
            $marks->fields(),
        );

        return match (true) {
            $marks instanceof Density && $labels === [] => Texts::of('density.count', ['what' => $title]),
            $marks instanceof Density => Texts::of('density.sum', ['what' => $title, 'field' => $labels[0]]),
            $labels === [] => null,
            count($labels) === 1 => $labels[0],
            default => Texts::of('look.crossed', ['a' => $labels[0], 'b' => $labels[1]]),
        };
    }
}

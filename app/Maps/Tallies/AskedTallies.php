<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use App\Models\Layer;
use App\Models\Slice;
use App\Models\User;
use App\Rights\Viewer;
use Illuminate\Support\Facades\Gate;
use PinYard\Carto\Tally;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** What somebody asks of the records in areas before a map says it. */
final class AskedTallies
{
    /** @throws Refused */
    public static function of(mixed $of, Layer $areas, User $person): AreaTallies
    {
        $number = is_array($of) ? $of['layer'] ?? null : null;
        $counted = is_int($number) ? Layer::query()->with('programme')->find($number) : null;
        if ($counted === null || Gate::forUser($person)->denies('view', $counted)) {
            // Whether there is such a layer is not told to whoever may not know.
            throw Refused::because('tally_layer', 'look/of/layer', is_scalar($number) ? $number : null);
        }
        $tally = Tally::read(
            $of,
            $areas->design(),
            static fn (int $n): ?LayerDesign => $n === $counted->id ? $counted->design() : null,
        );

        return new AreaTallies(
            $tally,
            $areas,
            $counted,
            self::slice($tally->slice, $counted, 'slice'),
            self::slice($tally->share, $counted, 'share'),
            Viewer::person($person),
        );
    }

    /** @throws Refused */
    private static function slice(?int $number, Layer $counted, string $which): ?Slice
    {
        $slice = $number === null ? null : Slice::query()->where('layer_id', $counted->id)->find($number);

        return $number === null || $slice !== null
            ? $slice
            : throw Refused::because('slice_unknown', "look/of/$which", $number, ['layer' => $counted->title]);
    }
}

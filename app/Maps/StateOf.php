<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Slice;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use App\Slices\RuleNeeds;
use Illuminate\Support\Facades\DB;

/** Names all that could change what a viewer is told of a layer's records; it stays on the server. */
final class StateOf
{
    /** Of all records of a layer, or of those in slices. */
    public static function records(Viewer $viewer, Layer $layer, ?Slice ...$slices): string
    {
        return implode('|', [
            ...self::design($viewer, $layer),
            $layer->change_number,
            (string) $layer->getRawOriginal('updated_at'),
            ...self::rules($viewer, $layer, ...$slices),
        ]);
    }

    /** Without what the records say; a rule that asks for more than them names that. */
    public static function withoutRecords(Viewer $viewer, Layer $layer, ?Slice ...$slices): string
    {
        return implode('|', [...self::design($viewer, $layer), ...self::rules($viewer, $layer, ...$slices)]);
    }

    /** @return list<string|int> */
    private static function design(Viewer $viewer, Layer $layer): array
    {
        return [
            VisibleRecords::of($viewer, $layer)->key(),
            $layer->design_version,
            $layer->programme->designs,
        ];
    }

    /** @return list<string> */
    private static function rules(Viewer $viewer, Layer $layer, ?Slice ...$slices): array
    {
        $state = [];
        foreach ($slices as $slice) {
            if ($slice !== null) {
                $rule = (string) $slice->getRawOriginal('filter');
                array_push($state, md5($rule), ...RuleNeeds::of(
                    $rule,
                    $layer->programme,
                    $viewer,
                    static fn (): string => DB::table('layers')
                        ->where('programme_id', $layer->programme_id)
                        ->orderBy('id')
                        ->pluck('change_number')
                        ->implode(','),
                ));
            }
        }

        return $state;
    }
}

<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Rule;
use PinYard\Audience\Sight;
use PinYard\Filter\Filter;
use PinYard\Refused;

/** What everyone with a link may see of a layer: the rule of its programme, or else what its design says. */
final class LinkSight
{
    public static function of(Layer $layer): Sight
    {
        $rule = self::rule($layer);
        if ($rule->slice === null) {
            return Sight::by($rule, null);
        }
        $only = self::slice($layer, $rule->slice);

        // What was to be seen is not there any more: nothing is seen rather than all.
        return $only === null ? Sight::nothing() : Sight::by($rule, $only);
    }

    public static function rule(Layer $layer): Rule
    {
        // Whoever read a layer without its rules must not show more for that.
        if (! array_key_exists('seen_by', $layer->getAttributes())) {
            $layer->setRawAttributes(
                ['seen_by' => DB::table('layers')->where('id', $layer->id)->value('seen_by')] + $layer->getAttributes(),
            )->syncOriginalAttribute('seen_by');
        }
        $stored = $layer->seen_by['link'] ?? null;

        return match (true) {
            $stored !== null => Rule::stored($stored),
            $layer->design()->publicSees => Rule::everything(),
            default => Rule::nothing(),
        };
    }

    private static function slice(Layer $layer, int $number): ?Filter
    {
        // Read once for each layer: every tile and every part of a map asks.
        $slice = $layer->loadMissing('slices')->slices->find($number);
        try {
            return $slice === null ? null : $layer->filter($slice->filter);
        } catch (Refused) {
            return null;
        }
    }
}

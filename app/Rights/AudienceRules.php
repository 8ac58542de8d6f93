<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Rule;
use PinYard\Audience\Sight;
use PinYard\Filter\Filter;
use PinYard\Refused;

/** The rules of a layer by audience, as its programme has said them. */
final class AudienceRules
{
    /** What was said of an audience; null where nothing was. */
    public static function said(Layer $layer, AudienceName $audience): ?Rule
    {
        // Whoever read a layer without its rules must not show more for that.
        if (! array_key_exists('seen_by', $layer->getAttributes())) {
            $layer->setRawAttributes(
                ['seen_by' => DB::table('layers')->where('id', $layer->id)->value('seen_by')] + $layer->getAttributes(),
            )->syncOriginalAttribute('seen_by');
        }
        $stored = $layer->seen_by[$audience->name] ?? null;

        return $stored === null ? null : Rule::stored($stored);
    }

    /** What holds for an audience: what was said, or else what goes without saying. */
    public static function rule(Layer $layer, AudienceName $audience): Rule
    {
        return self::said($layer, $audience) ?? match ($audience->name) {
            AudienceName::LINK => $layer->design()->publicSees ? Rule::everything() : Rule::nothing(),
            AudienceName::CREWS => $layer->design()->crew->seeAll ? Rule::everything() : Rule::own(),
            AudienceName::MAKERS => Rule::everything(),
            // Who was asked in sees what everyone with the link does, until more is said.
            AudienceName::GUESTS => self::rule($layer, AudienceName::link()),
            default => Rule::nothing(),
        };
    }

    /** What an audience sees by its rule. */
    public static function sight(Layer $layer, AudienceName $audience): Sight
    {
        return self::by(self::rule($layer, $audience), $layer);
    }

    public static function by(Rule $rule, Layer $layer): Sight
    {
        $areas = $rule->areas === null
            ? null
            : Layer::areasOf($layer->programme)->firstWhere('id', $rule->areas)?->title;
        if ($rule->slice === null) {
            return Sight::by($rule, null, $areas);
        }
        $only = self::slice($layer, $rule->slice);

        // What was to be seen is not there any more: nothing is seen rather than all.
        return $only === null ? Sight::nothing() : Sight::by($rule, $only, $areas);
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

<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Layer;
use App\Models\Member;
use App\Models\Role;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;

/**
 * What somebody who belongs to a programme sees of a layer: what all audiences together see that they belong to. A
 * coordinator sees all. Whoever goes out sees what they brought, whatever rules say; whoever may change all records
 * sees all of each that is shown to them, and whoever may visit them where they are.
 */
final class PersonSight
{
    public static function of(?Member $member, Layer $layer): Sight
    {
        if ($member === null) {
            return Sight::nothing();
        }
        if ($member->role === Role::Coordinator) {
            return Sight::everything();
        }
        $rights = LayerRights::ofMember($member, $layer);
        $sights = $rights->goesOut() ? [Sight::own()] : [];
        foreach (AudienceName::of($member) as $audience) {
            $sights[] = self::byAudience($layer, $audience, $member);
        }
        $sight = Sight::together($sights);
        if ($member->mayMake()) {
            // Who puts groups together as they like takes one figure from another until single records are left.
            $sight = $sight->withoutFigures();
        }
        if ($sight->isWhole()) {
            return $sight;
        }
        if ($rights->changesAll()) {
            return $sight->whole();
        }
        $visits = $sight->place === Sharpness::Exact ? null : $layer->visitsLayer;

        return $visits !== null && LayerRights::ofMember($member, $visits)->mayAdd() ? $sight->placed() : $sight;
    }

    private static function byAudience(Layer $layer, AudienceName $audience, Member $member): Sight
    {
        // Until something is said of crews, the design says it, for some crews perhaps another thing than for others.
        return $audience->name === AudienceName::CREWS && AudienceRules::said($layer, $audience) === null
            ? ($layer->design()->rightsOf($member->crew?->name)->seeAll ? Sight::everything() : Sight::own())
            : AudienceRules::sight($layer, $audience);
    }
}

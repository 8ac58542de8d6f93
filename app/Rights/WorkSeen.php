<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Programme;
use App\Models\Role;
use PinYard\Refused;

/**
 * Who is told of all people at work: where crews have been (as kilometres, hours, and what was walked, never as the way
 * itself), which crews are out now (without names), and their outings. Whoever coordinates is; a crew is told of its
 * own anyway; all others of nothing, unless the programme says so of an audience that they belong to.
 */
final class WorkSeen
{
    public const TRAILS = 'trails';

    public const CREWS = 'crews';

    public const OUTINGS = 'outings';

    public const ALL = [self::TRAILS, self::CREWS, self::OUTINGS];

    /** @param  self::TRAILS|self::CREWS|self::OUTINGS  $what */
    public static function tellsAll(Viewer $viewer, Programme $programme, string $what): bool
    {
        $told = $programme->work_seen[$what] ?? [];
        if ($viewer->person === null) {
            return in_array(AudienceName::LINK, $told, true);
        }
        $member = $programme->memberFor($viewer->person);

        return $member !== null && ($member->role === Role::Coordinator || ($told !== [] && array_intersect(
            $told,
            array_map(static fn (AudienceName $a): string => $a->name, AudienceName::of($member)),
        ) !== []));
    }

    /**
     * @return bool whether it was otherwise before
     *
     * @throws Refused
     */
    public static function say(Programme $programme, AudienceName $audience, mixed $what, mixed $told): bool
    {
        if (! is_string($what) || ! in_array($what, self::ALL, true)) {
            throw Refused::because('work_unknown', 'what', is_string($what) ? $what : null);
        }
        if (! is_bool($told)) {
            throw Refused::because('must_be_yes_no', 'told', is_scalar($told) ? $told : null);
        }
        $all = $programme->work_seen ?? [];
        $before = $all[$what] ?? [];
        $after = array_values(array_diff($before, [$audience->name]));
        if ($told) {
            $after[] = $audience->name;
        }
        if (in_array($audience->name, $before, true) === $told) {
            return false;
        }
        $programme->forceFill(['work_seen' => [$what => $after] + $all])->save();

        return true;
    }
}

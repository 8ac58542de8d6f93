<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Audience;
use App\Models\Board;
use App\Models\Map;
use App\Models\Member;
use App\Models\Programme;
use App\Models\User;
use Illuminate\Database\Eloquent\Collection;
use PinYard\Refused;

/**
 * To whom of a programme a map or a board is shown. What it shows of records is another matter: that is each one's own
 * ({@see PersonSight}). What its owner kept to themselves goes to the coordinators when the owner is of the programme
 * no more, so that it is not lost.
 */
final class ShownTo
{
    public static function admits(Map|Board $thing, User $person): bool
    {
        $member = $thing->programme->memberFor($person);

        return $member !== null && self::admitsMember(
            $member,
            $thing->programme,
            $thing->audience,
            $thing->owner_id,
            $thing->shown_to ?? [],
        );
    }

    /**
     * @param  int|null  $owner  number of the person
     * @param  list<string>  $some  names of audiences
     */
    public static function admitsMember(
        Member $member,
        Programme $programme,
        Audience $audience,
        ?int $owner,
        array $some,
    ): bool {
        return match ($audience) {
            Audience::Link, Audience::Programme => true,
            Audience::Me => $owner === $member->user_id || ($member->coordinates() && ! self::isOf($programme, $owner)),
            Audience::Some => $owner === $member->user_id || $member->coordinates() || array_intersect(
                $some,
                array_map(static fn (AudienceName $a): string => $a->name, AudienceName::of($member)),
            ) !== [],
        };
    }

    /**
     * Reads names of audiences of a programme; those that went are left out.
     *
     * @return list<string>
     *
     * @throws Refused
     */
    public static function read(mixed $in, Programme $programme): array
    {
        $names = [];
        foreach (is_array($in) ? $in : [] as $i => $name) {
            if (! is_string($name) || $name === AudienceName::LINK) {
                throw Refused::because('shown_to', "shown_to/$i");
            }
            if (AudienceName::named($name, $programme) !== null) {
                $names[$name] = true;
            } elseif (! AudienceName::isOfProgramme($name)) {
                throw Refused::because('shown_to', "shown_to/$i", $name);
            }
        }

        return array_keys($names);
    }

    private static function isOf(Programme $programme, ?int $owner): bool
    {
        return $owner !== null && $programme->members()->where('user_id', $owner)->exists();
    }

    /** @return Collection<int, Map> of a programme, in the order of their titles */
    public static function mapsOf(Programme $programme, User $person): Collection
    {
        return $programme->maps()->orderBy('title')->get()
            ->each(static fn (Map $m) => $m->setRelation('programme', $programme))
            ->filter(static fn (Map $m): bool => self::admits($m, $person))->values();
    }

    /** @return Collection<int, Board> of a programme, in the order of their titles */
    public static function boardsOf(Programme $programme, User $person): Collection
    {
        return $programme->boards()->orderBy('title')->get()
            ->each(static fn (Board $b) => $b->setRelation('programme', $programme))
            ->filter(static fn (Board $b): bool => self::admits($b, $person))->values();
    }
}

<?php

declare(strict_types=1);

namespace App\Publish;

use App\Audit\Audit;
use App\Models\Audience;
use App\Models\Board;
use App\Models\Map;
use App\Models\Programme;
use App\Models\User;
use App\Rights\AudienceName;
use PinYard\Refused;

/** Who opens things to everyone: whoever makes maps and boards does not decide that. */
final class Opening
{
    /**
     * @param  Audience|null  $was  of a thing that is there
     * @param  bool  $anew  whether its address is to be another
     *
     * @throws Refused
     */
    public static function allow(
        User $person,
        Programme $programme,
        Audience $wanted,
        ?Audience $was = null,
        bool $anew = false,
    ): void {
        $changes = $anew || ($wanted === Audience::Link) !== ($was === Audience::Link);
        if ($changes && $programme->memberFor($person)?->coordinates() !== true) {
            throw Refused::because('link_coordinators', 'audience');
        }
    }

    /**
     * Opens a thing so far, or closes it, and notes that.
     *
     * @param  list<string>  $some  names of the audiences, where it is shown to some
     * @param  bool  $anew  whether the address that there was is withdrawn for good
     *
     * @throws Refused
     */
    public static function set(
        User $person,
        Map|Board $thing,
        Audience $wanted,
        array $some = [],
        bool $anew = false,
    ): void {
        $was = $thing->exists ? $thing->audience : null;
        self::allow($person, $thing->programme, $wanted, $was, $anew);
        if ($wanted === Audience::Me) {
            $thing->owner_id ??= $person->id;
        }
        if ($wanted === Audience::Me && $was !== Audience::Me && $thing->owner_id !== $person->id) {
            // Only who owns it can keep it: for anybody else it would be gone with the tap.
            throw Refused::because('shown_to_owner', 'audience');
        }
        if ($wanted === Audience::Some && $some === []) {
            throw Refused::because('shown_to_nobody', 'shown_to');
        }
        $before = [$was, $thing->exists ? $thing->shown_to : null];
        $thing->openTo($wanted, $anew, $some);
        $opened = $wanted === Audience::Link;
        $kind = match (true) {
            $opened !== ($was === Audience::Link) => $opened ? 'link_opened' : 'link_closed',
            $anew => 'link_renewed',
            $was !== null && $before !== [$wanted, $thing->shown_to] => 'shown_to',
            default => null,
        };
        if ($kind !== null) {
            Audit::note($thing->programme_id, $kind, ['title' => $thing->title] + ($kind === 'shown_to' ? [
                'audience' => $wanted->value,
                'some' => implode(', ', array_map(
                    static fn (string $n): string => AudienceName::named($n, $thing->programme)?->title() ?? $n,
                    $thing->shown_to ?? [],
                )),
            ] : []));
        }
    }
}

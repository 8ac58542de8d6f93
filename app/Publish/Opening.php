<?php

declare(strict_types=1);

namespace App\Publish;

use App\Audit\Audit;
use App\Models\Audience;
use App\Models\Board;
use App\Models\Map;
use App\Models\Programme;
use App\Models\User;
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
        $changes = $anew || $wanted !== ($was ?? Audience::Programme);
        if ($changes && $programme->memberFor($person)?->coordinates() !== true) {
            throw Refused::because('link_coordinators', 'audience');
        }
    }

    /**
     * Opens a thing so far, or closes it, and notes that.
     *
     * @param  bool  $anew  whether the address that there was is withdrawn for good
     *
     * @throws Refused
     */
    public static function set(User $person, Map|Board $thing, Audience $wanted, bool $anew = false): void
    {
        $was = $thing->exists ? $thing->audience : null;
        self::allow($person, $thing->programme, $wanted, $was, $anew);
        $thing->openTo($wanted, $anew);
        $kind = match (true) {
            $wanted !== ($was ?? Audience::Programme) => $wanted === Audience::Link ? 'link_opened' : 'link_closed',
            $anew => 'link_renewed',
            default => null,
        };
        if ($kind !== null) {
            Audit::note($thing->programme_id, $kind, ['title' => $thing->title]);
        }
    }
}
